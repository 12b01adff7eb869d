#let d = json(bytes(sys.inputs.sheet))
#let grey = rgb("#5A6570")
#let ink = rgb("#16202A")
#set page(width: d.page_width_mm * 1mm, height: d.page_height_mm * 1mm, margin: 0mm)
#set text(font: "Barlow", size: 9pt, fill: ink)
#let at(x, y, body) = place(top + left, dx: x * 1mm, dy: y * 1mm, body)
#let middle(x, y, body) = at(x - 10, y - 3, box(width: 20mm, height: 6mm, align(center + horizon, body)))
#let bar-x = 15
#let bar-y = d.page_height_mm - 15
// Lines, true to size.
#for line in d.lines {
  at(0, 0, polygon(stroke: (paint: ink, thickness: 0.2mm, dash: line.dash), ..line.points.map(p => (p.at(0) * 1mm, p.at(1) * 1mm))))
}
// The middle, and the hours as seen from the entry.
#at(d.middle.at(0) - 4, d.middle.at(1), line(length: 8mm, stroke: 0.1mm + grey))
#at(d.middle.at(0), d.middle.at(1) - 4, line(length: 8mm, angle: 90deg, stroke: 0.1mm + grey))
#for hour in d.hours { middle(hour.x, hour.y, text(8pt, fill: grey, hour.says)) }
// What it is.
#at(15, 10, box(width: (d.page_width_mm - 30) * 1mm)[#text(14pt, weight: 600, d.title) \ #text(fill: grey, d.says)])
#for (n, line) in d.lines.enumerate() {
  at(15, 27 + 5 * n, box(width: 180mm)[#box(width: 12mm, height: 2.2mm, align(horizon, std.line(length: 10mm, stroke: (paint: ink, thickness: 0.3mm, dash: line.dash)))) #line.says])
}
// Two bars of 100 mm: a printer may shrink one way alone.
#at(bar-x, bar-y, line(length: 100mm, stroke: 0.3mm))
#at(bar-x, bar-y, line(length: 100mm, angle: -90deg, stroke: 0.3mm))
#for n in range(11) {
  let long = if calc.rem(n, 5) == 0 { 3 } else { 1.8 }
  at(bar-x + 10 * n, bar-y, line(length: long * 1mm, angle: 90deg, stroke: 0.2mm))
  at(bar-x - long, bar-y - 10 * n, line(length: long * 1mm, stroke: 0.2mm))
}
#at(bar-x + 3, bar-y - 6, box(width: (d.page_width_mm - 33) * 1mm)[Both bars are 100 mm long. Measure them on paper before scribing: print at 100 %, not "fit to page".])
#at(bar-x, bar-y + 5, text(7pt, fill: grey)[Elvarn #d.version · #d.basis])
