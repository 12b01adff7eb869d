#let d = json(bytes(sys.inputs.sheet))
#let grey = rgb("#5A6570")
#let hair = 0.5pt + rgb("#C4CACF")
#set page(paper: "a4", margin: (x: 20mm, y: 18mm), footer: text(7.5pt, fill: grey)[Elvarn #d.version · #d.basis])
#set text(font: "Barlow", size: 10.5pt, fill: rgb("#16202A"))
#let label(body) = text(stretch: 87.5%, weight: 500, fill: grey, body)
#let tick = box(width: 4mm, height: 4mm, stroke: 0.7pt)

#grid(columns: (1fr, auto), align: (left, right),
  [#text(20pt, weight: 600)[Receipt and return list] \ #label(d.title)],
  [#text(12pt, weight: 600, d.customer) \ #label[Received #d.received_on]])
#v(2mm)
#line(length: 100%, stroke: 0.8pt)
#v(2mm)
#table(columns: (1fr, 34mm, 52mm, 24mm), stroke: none, inset: (x: 1.5mm, y: 2mm), align: (left, left, left, center),
  table.hline(stroke: hair), label[What], label[Condition], label[Note], label[Returned], table.hline(stroke: hair),
  ..d.rows.map(r => (text(weight: 600, r.words), r.condition, label(r.note),
    if r.condition == "missing" [–] else if r.returned_on != "" [#r.returned_on] else [#tick],
    table.hline(stroke: hair))).flatten())
#if d.rows.len() == 0 [Nothing listed.]
#v(10mm)
#grid(columns: (1fr, 1fr), column-gutter: 14mm, row-gutter: 2mm,
  line(length: 100%, stroke: 0.6pt), line(length: 100%, stroke: 0.6pt),
  label[Received by (shop)], label[Returned to (customer)])
