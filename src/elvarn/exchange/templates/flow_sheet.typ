#let d = json(bytes(sys.inputs.sheet))
#let blue = rgb("#24439B")
#let copper = rgb("#B4551D")
#let grey = rgb("#5A6570")
#let hair = 0.5pt + rgb("#C4CACF")
#set page(paper: "a4", margin: (x: 18mm, top: 16mm, bottom: 14mm), footer: text(7.5pt, fill: grey)[
  #d.caution \
  Elvarn #d.version · method #d.method_version · figures marked real lie outside what this bench repeats within
])
#set text(font: "Barlow", size: 9.5pt, fill: rgb("#16202A"))
#let mono(body, ..rest) = text(font: "Spline Sans Mono", ..rest, body)
// typst files Barlow Semi Condensed under Barlow, by its width
#let label(body) = text(stretch: 87.5%, weight: 500, fill: grey, body)

#grid(columns: (1fr, auto), align: (left, right),
  [#text(20pt, weight: 600, d.title) \ #label(d.subtitle)],
  [#text(11pt, weight: 600, d.customer) \ #label(d.made_on)])
#v(2mm)
#line(length: 100%, stroke: 0.8pt)
#v(1mm)
#grid(columns: (1fr, auto),
  [#text(12pt, weight: 600)[Flow before and after] #h(2mm) #label(d.basis)],
  [#box(circle(radius: 1.4mm, stroke: 0.8pt)) #label[before: #d.before_label] #h(3mm)
   #if d.after_label != "" [#box(circle(radius: 1.4mm, fill: copper)) #label[after: #d.after_label]]])
#v(1mm)
#let bar(row) = box(width: 100%, height: 7mm, {
  place(left + horizon, dy: -1.3mm, rect(width: row.bar_before * 100%, height: 1.9mm, stroke: 0.6pt + black, fill: white))
  if row.bar_after > 0 {
    place(left + horizon, dy: 1.3mm, rect(width: row.bar_after * 100%, height: 1.9mm, stroke: none, fill: copper))
  }
})
#table(columns: (16mm, 19mm, 19mm, 19mm, 17mm, 1fr, 34mm), stroke: none, align: (left + horizon, right + horizon, right + horizon, right + horizon, right + horizon, left + horizon, left + horizon),
  inset: (x: 1.5mm, y: 0.9mm),
  table.hline(stroke: hair),
  label[Runner], label[Before], label[After], label[Gain], label[], label[], label[],
  table.hline(stroke: hair),
  ..d.rows.map(r => (
    text(12pt, weight: 600, r.runner), mono(r.before), mono(r.after, weight: 500, fill: copper), mono(r.gain, weight: 500),
    label(r.percent), bar(r), label(r.judgement))).flatten(),
  table.hline(stroke: hair),
  ..if d.mean != none {(text(weight: 600, d.mean.runner), mono(d.mean.before), mono(d.mean.after, fill: copper),
    mono(d.mean.gain, weight: 500), label(d.mean.percent),
    label[spread #d.spread_before#if d.spread_after != "" [ before, #d.spread_after after]], label(d.mean.judgement))} else {()},
  table.hline(stroke: hair))
#label[Figures in #d.unit, bars from zero.]
#v(2mm)
#let said(items) = for s in items {
  let mark = if s.grade == "measured" { circle(radius: 1mm, fill: black) } else if s.grade == "computed" {
    circle(radius: 1mm, stroke: 0.6pt, fill: gradient.linear((black, 0%), (black, 50%), (white, 50%), (white, 100%)))
  } else { circle(radius: 1mm, stroke: 0.6pt) }
  grid(columns: (5mm, 1fr), box(baseline: -0.4mm, mark), text(fill: if s.tone == "plain" { black } else { rgb("#7A5600") }, s.text))
  v(0.6mm)
}
#grid(columns: (1fr, 62mm), column-gutter: 8mm,
  [#text(11pt, weight: 600)[What the figures say] #v(0.5mm) #said(d.said)
   #if d.dyno_said.len() > 0 [#v(1.5mm) #text(11pt, weight: 600)[On the dyno, against stock] #v(0.5mm) #said(d.dyno_said)]],
  [#text(11pt, weight: 600)[Set-up]
   #table(columns: (22mm, 1fr), stroke: none, inset: (x: 0mm, y: 1mm), ..d.setup.map(r => (label(r.at(0)), r.at(1), table.hline(stroke: hair))).flatten())])
#v(1fr)
#label[Marks: filled, measured · half, computed · open, estimated or rule of thumb]
