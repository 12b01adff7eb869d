"""Sheets on paper, as PDF, with the fonts that are shipped with the application."""

import json
from pathlib import Path
from typing import Any

TEMPLATES = Path(__file__).parent / "templates"


class PaperError(RuntimeError):
    """The page could not be set; the message says why."""


def flow_sheet_pdf(sheet: dict[str, Any], fonts: Path) -> bytes:
    """The flow sheet as PDF."""
    return _page("flow_sheet.typ", sheet, fonts)


def receipt_pdf(receipt: dict[str, Any], fonts: Path) -> bytes:
    """The receipt with its return list as PDF."""
    return _page("receipt.typ", receipt, fonts)


def _page(template: str, words: dict[str, Any], fonts: Path) -> bytes:
    """A page as PDF. A missing font is an error: a page in a wrong font is not ours."""
    import typst

    content, warnings = typst.compile_with_warnings(
        TEMPLATES / template,
        sys_inputs={"sheet": json.dumps(words, default=str)},
        font_paths=[fonts],
        ignore_system_fonts=True,
    )
    if warnings:
        raise PaperError("; ".join(warning.message for warning in warnings))
    if not isinstance(content, bytes):
        raise PaperError("The sheet came out in several files.")
    return content
