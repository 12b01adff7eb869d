#let d = json(bytes(sys.inputs.sheet))
#let copper = rgb("#B4551D")
#let grey = rgb("#5A6570")
#let ochre = rgb("#7A5600")
#let hair = 0.5pt + rgb("#C4CACF")
#set page(paper: "a4", margin: (x: 18mm, top: 12mm, bottom: 21mm), footer-descent: 4mm, footer: text(7.5pt, fill: grey)[
  #d.caution \
  "Clear": the change is larger than the ± of this before/after comparison on our bench. By chance alone one of the runners is called clear in 5 % of sheets, the average in another 5 %. \
  Elvarn #d.version · method #d.method_version
])
#set par(spacing: 0.75em)
#set block(spacing: 0.75em)
#set text(font: "Barlow", size: 9.5pt, fill: rgb("#16202A"))
#let mono(body, ..rest) = text(font: "Spline Sans Mono", ..rest, body)
// typst files Barlow Semi Condensed under Barlow, by its width
#let label(body, ..rest) = text(stretch: 87.5%, weight: 500, fill: grey, ..rest, body)

#if d.shop != "" [#text(11pt, weight: 600, d.shop) #h(3mm) #label(d.address) #v(-1mm)]
#grid(columns: (1fr, auto), align: (left, right),
  [#text(20pt, weight: 600, d.title) \ #label(d.subtitle)],
  [#text(11pt, weight: 600, d.customer) \ #label(d.made_on)])
#v(1mm)
#line(length: 100%, stroke: 0.8pt)
#if d.not_signed_off != "" [#text(12pt, weight: 600, fill: rgb("#A1261C"))[! #d.not_signed_off]]
#grid(columns: (1fr,) * calc.max(d.headlines.len(), 1), column-gutter: 8mm,
  ..d.headlines.map(h => [#if h.figure != "" [#text(30pt, weight: 600, h.figure) \ ] #text(if h.figure == "" { 14pt } else { 10pt }, weight: 500, fill: if h.figure == "" { ochre } else { black }, h.words)]))
#v(1mm)
#if d.rows.len() > 0 [
#grid(columns: (1fr, auto),
  [#text(12pt, weight: 600)[Flow before and after] #h(2mm) #label(d.basis)],
  [#box(circle(radius: 1.4mm, stroke: 0.8pt)) #label[before: #d.before_label] #h(3mm)
   #if d.after_label != "" [#box(circle(radius: 1.4mm, fill: copper)) #label[after: #d.after_label]]])
#v(0.5mm)
#let dot(at, fill, stroke) = if at != none { place(left + horizon, dx: at * 100% - 1.3mm, circle(radius: 1.3mm, fill: fill, stroke: stroke)) }
#let ladder(row) = box(width: 100%, height: 4.6mm, {
  if row.gain != "" and row.at_before != none and row.at_after != none {
    let low = calc.min(row.at_before, row.at_after)
    place(left + horizon, dx: low * 100%, line(length: calc.abs(row.at_after - row.at_before) * 100%, stroke: 1pt + copper))
  }
  dot(row.at_before, white, 0.8pt + black)
  dot(row.at_after, copper, none)
})
#table(columns: (17mm, 15mm, 15mm, 14mm, 13mm, 14mm, 1fr, 14mm, 36mm), stroke: none, align: (left + horizon, right + horizon, right + horizon, right + horizon, right + horizon, right + horizon, left + horizon, right + horizon, left + horizon),
  inset: (x: 1.2mm, y: 0.7mm),
  table.hline(stroke: hair),
  label[Runner], label[Before], label[After], label[Gain], label[±], label[%], label[], label[Readings], label[],
  table.hline(stroke: hair),
  ..d.rows.map(r => (
    text(12pt, weight: 600, r.runner), mono(r.before), mono(r.after, weight: 500, fill: copper), mono(r.gain, weight: 500), mono(r.half_width),
    label(r.percent), ladder(r), label(r.refits), label(r.judgement))).flatten(),
  table.hline(stroke: hair),
  ..d.means.map(r => (text(weight: 600, r.runner), mono(r.before), mono(r.after, fill: copper),
    mono(r.gain, weight: 500), mono(r.half_width), label(r.percent),
    if r.runner == "Average" and d.spread_before != "" { label[spread #d.spread_before#if d.spread_after != "" [, after #d.spread_after]] } else { [] }, [], label(r.judgement))).flatten(),
  table.hline(stroke: hair))
#label[All in #d.unit. Readings: before / after, each refitted.]
#v(1.5mm)
]
#let mark(grade) = box(width: 2.2mm, height: 2.2mm, {
  place(circle(radius: 1.1mm, stroke: 0.6pt, fill: white))
  let part = (measured: 1.0, computed: 0.5, estimated: 0.25).at(grade, default: 0)
  if part > 0 { place(box(width: 2.2mm * part, height: 2.2mm, clip: true, circle(radius: 1.1mm, fill: black))) }
})
#let said(items) = for s in items {
  grid(columns: (4.5mm, 1fr), box(inset: (top: 0.7mm), mark(s.grade)), text(fill: if s.tone == "plain" { black } else { ochre }, s.paper))
  v(0.4mm)
}
#if d.plate != "" [
  #text(12pt, weight: 600)[Dyno, compared with stock] #h(2mm) #label(d.plate_basis)
  #v(0.5mm)
  #image(bytes(d.plate), format: "svg", width: 92%)
]
#if d.designs.len() > 0 [
#table(columns: (1fr, 22mm, 14mm, 14mm, 16mm, 30mm, 34mm), stroke: none, align: (left + horizon, right + horizon, right + horizon, right + horizon, right + horizon, right + horizon, left + horizon),
  inset: (x: 1.2mm, y: 0.7mm),
  label[Design], label[Average, #d.designs_unit], label[Gain], label[±], label[%], label[Peak, #d.designs_unit at rpm], label[],
  table.hline(stroke: hair),
  ..d.designs.map(r => (text(weight: 600, r.name), mono(r.power), mono(r.gain, weight: 500, fill: copper), mono(r.half_width), label(r.percent), label(r.peak), label(r.judgement))).flatten(),
  table.hline(stroke: hair))
]
#grid(columns: (1fr, 74mm), column-gutter: 8mm,
  [#if d.said.len() + d.dyno_said.len() > 0 [#text(11pt, weight: 600)[Results] #v(0.5mm) #said(d.said) #said(d.dyno_said)]],
  [#if d.work.len() > 0 [#text(11pt, weight: 600)[Work]
   #table(columns: (24mm, 1fr), stroke: none, inset: (x: 0mm, y: 0.8mm), ..d.work.map(r => (label(r.at(0)), r.at(1), table.hline(stroke: hair))).flatten())]
   #if d.path != none [#text(11pt, weight: 600)[Air path] #h(1.5mm) #label(d.path.at)
   #table(columns: (24mm, 1fr, 1fr), stroke: none, inset: (x: 0.6mm, y: 0.8mm),
     [], label(d.path.before), label(d.path.after), table.hline(stroke: hair),
     ..d.path.rows.map(r => (label(r.name), text(8.5pt, r.before), text(8.5pt, r.after), table.hline(stroke: hair))).flatten())]
   #if d.setup.len() > 0 [#text(11pt, weight: 600)[Bench set-up]
   #let both = d.setup.any(r => r.differs)
   #if both [
   #table(columns: (22mm, 1fr, 1fr), stroke: none, inset: (x: 0.6mm, y: 0.8mm),
     [], label[before], label[after], table.hline(stroke: hair),
     ..d.setup.map(r => (label(r.name, fill: if r.differs { ochre } else { grey }), text(8.5pt, r.before), text(8.5pt, fill: if r.differs { ochre } else { black }, r.after), table.hline(stroke: hair))).flatten())
   ] else [
   #table(columns: (22mm, 1fr), stroke: none, inset: (x: 0.6mm, y: 0.8mm),
     ..d.setup.map(r => (label(r.name), text(8.5pt, if r.before != "" { r.before } else { r.after }), table.hline(stroke: hair))).flatten())
   #if d.after_label != "" [#label[the same before and after]]]]])
#v(1fr)
#v(1mm)
#box(mark("measured")) #label[measured] #h(3mm) #box(mark("computed")) #label[calculated] #h(3mm) #box(mark("estimated")) #label[estimated] #h(3mm) #box(mark("rule")) #label[rule of thumb]
