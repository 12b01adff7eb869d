#let d = json(bytes(sys.inputs.sheet))
#let grey = rgb("#5A6570")
#set page(paper: "a4", margin: (x: 12mm, y: 12mm), footer: text(7.5pt, fill: grey)[Elvarn #d.version · #d.title · #d.basis])
#set text(font: "Barlow", size: 9pt, fill: rgb("#16202A"))
#text(15pt, weight: 600)[Labels] #h(3mm) #text(fill: grey)[#d.title] \
#text(fill: grey)[#d.says]
#v(2mm)
// Flags of 60 x 18 mm: cut on the hairlines, fold round the hose at the dashed line.
#let flag(l) = box(width: 60mm, height: 18mm, stroke: (paint: rgb("#9AA4AC"), thickness: 0.3pt), inset: 0mm)[
  #place(left + horizon, dx: 3mm, text(font: "Spline Sans Mono", size: 24pt, weight: 700, l.code))
  #place(left + horizon, dx: 24mm, box(width: 34mm)[#text(10pt, weight: 600, l.words) \ #text(8pt, fill: grey, l.what)])
  #place(left + top, dx: 21.5mm, line(angle: 90deg, length: 18mm, stroke: (paint: rgb("#9AA4AC"), thickness: 0.3pt, dash: "dashed")))
]
#grid(columns: 3, column-gutter: 2mm, row-gutter: 2mm, ..d.labels.map(flag))
