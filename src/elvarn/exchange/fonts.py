"""Make the fonts of the pages usable on paper: woff2 of the font packages to TTF. Run once, when setting up."""

import sys
from pathlib import Path

FAMILIES = {
    "barlow": "Barlow",
    "barlow-semi-condensed": "Barlow Semi Condensed",
    "spline-sans-mono": "Spline Sans Mono",
}
FAMILY_NAME, TYPOGRAPHIC_FAMILY_NAME = 1, 16  # OpenType name table
FILES = (
    "barlow/files/barlow-latin-400-normal",
    "barlow/files/barlow-latin-ext-400-normal",
    "barlow/files/barlow-latin-600-normal",
    "barlow/files/barlow-latin-ext-600-normal",
    "barlow-semi-condensed/files/barlow-semi-condensed-latin-500-normal",
    "barlow-semi-condensed/files/barlow-semi-condensed-latin-600-normal",
    "spline-sans-mono/files/spline-sans-mono-latin-500-normal",
)


def convert(node_modules: Path, target: Path) -> None:
    """Write each font as TTF into the target folder."""
    from fontTools.ttLib import TTFont

    target.mkdir(parents=True, exist_ok=True)
    for name in FILES:
        font = TTFont(node_modules / "@fontsource" / f"{name}.woff2")
        font.flavor = None
        for record in (FAMILY_NAME, TYPOGRAPHIC_FAMILY_NAME):  # the packages name each weight as a family of its own
            font["name"].setName(FAMILIES[name.split("/")[0]], record, 3, 1, 0x409)
        font.save(target / f"{Path(name).name}.ttf")


if __name__ == "__main__":
    convert(Path(sys.argv[1]), Path(sys.argv[2]))
