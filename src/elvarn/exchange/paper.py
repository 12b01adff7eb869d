"""Sheets on paper, as PDF, with the fonts that are shipped with the application."""

import json
from pathlib import Path
from typing import Any, Literal

PPI = 144.0  # of a picture
TEMPLATES = Path(__file__).parent / "templates"


class PaperError(RuntimeError):
    """The page could not be set; the message says why."""


def flow_sheet_pdf(sheet: dict[str, Any], fonts: Path) -> bytes:
    """The flow sheet as PDF."""
    return _page("flow_sheet.typ", sheet, fonts)


def receipt_pdf(receipt: dict[str, Any], fonts: Path) -> bytes:
    """The receipt with its return list as PDF."""
    return _page("receipt.typ", receipt, fonts)


def scribe_pdf(sheet: dict[str, Any], fonts: Path) -> bytes:
    """A template to scribe by, 1:1, as PDF."""
    return _page("scribe.typ", sheet, fonts)


def labels_pdf(sheet: dict[str, Any], fonts: Path) -> bytes:
    """Labels for plugs and hoses as PDF."""
    return _page("labels.typ", sheet, fonts)


def picture_png(drawing: str, fonts: Path) -> bytes:
    """An SVG drawing as PNG, twice as fine as a screen."""
    return _set("picture.typ", {"svg": drawing}, fonts, "png")


def _page(template: str, words: dict[str, Any], fonts: Path) -> bytes:
    return _set(template, {"sheet": json.dumps(words, default=str)}, fonts, "pdf")


def _set(template: str, inputs: dict[str, str], fonts: Path, kind: Literal["pdf", "png"]) -> bytes:
    """A page that is set. A missing font is an error: a page in a wrong font is not ours."""
    import typst

    content, warnings = typst.compile_with_warnings(
        TEMPLATES / template,
        sys_inputs=inputs,
        font_paths=[fonts],
        ignore_system_fonts=True,
        format=kind,
        ppi=PPI,
    )
    if warnings:
        raise PaperError("; ".join(warning.message for warning in warnings))
    if not isinstance(content, bytes):
        raise PaperError("The sheet came out in several files.")
    return content
