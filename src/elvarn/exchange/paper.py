"""The flow sheet on paper: one PDF page, fonts shipped with the application."""

import json
from pathlib import Path
from typing import Any

TEMPLATE = Path(__file__).parent / "templates" / "flow_sheet.typ"


class PaperError(RuntimeError):
    """The page could not be set; the message says why."""


def flow_sheet_pdf(sheet: dict[str, Any], fonts: Path) -> bytes:
    """The sheet as PDF. A missing font is an error: a page in a wrong font is not ours."""
    import typst

    content, warnings = typst.compile_with_warnings(
        TEMPLATE,
        sys_inputs={"sheet": json.dumps(sheet, default=str)},
        font_paths=[fonts],
        ignore_system_fonts=True,
    )
    if warnings:
        raise PaperError("; ".join(warning.message for warning in warnings))
    if not isinstance(content, bytes):
        raise PaperError("The sheet came out in several files.")
    return content
