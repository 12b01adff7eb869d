"""Pictures of the made-up job: drawings that stand where a shop would have photographs."""

import json

PICTURES = {
    "As it came out of the box": """
#rect(width: 100%, height: 100%, fill: rgb("#3b3a36"))
#place(top + left, dx: 18%, dy: 30%, rect(width: 62%, height: 22%, radius: 12pt, fill: rgb("#9aa0a4"),
  stroke: 2pt + rgb("#6d7377")))
#for n in range(5) {
  place(top + left, dx: 22% + n * 11%, dy: 50%, rect(width: 7%, height: 30%, radius: (bottom: 9pt),
    fill: rgb("#8a9094"), stroke: 2pt + rgb("#6d7377")))
}
#place(top + left, dx: 8%, dy: 33%, circle(radius: 26pt, fill: rgb("#787e82"), stroke: 3pt + rgb("#5a5f63")))
""",
    "Entries, gasket-matched by somebody": """
#rect(width: 100%, height: 100%, fill: rgb("#7d8387"))
#for n in range(5) {
  place(top + left, dx: 6% + n * 18.5%, dy: 36%,
    circle(radius: 30pt, fill: rgb("#26292b"), stroke: 4pt + rgb("#aab0b4")))
  if n == 1 or n == 2 {
    place(top + left, dx: 5.4% + n * 18.5%, dy: 35%, circle(radius: 33pt, stroke: 1.5pt + rgb("#d2d6d8")))
  }
}
""",
}


def png(drawing: str) -> bytes:
    """A drawing as a PNG."""
    import typst

    page = "#set page(width: 420pt, height: 300pt, margin: 0pt)\n"
    content = typst.compile((page + drawing).encode(), format="png", ppi=110.0)
    if not isinstance(content, bytes):
        raise RuntimeError(f"the picture came out in several pages: {json.dumps(drawing[:40])}")
    return content
