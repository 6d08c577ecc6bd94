"""The job sheet set as PDF by Typst, which ships its own fonts and reads nothing but the template."""

import json
from importlib.resources import as_file, files

import typst

from leadsman.core.analysis.analysis import Analysis
from leadsman.formats.job_sheet.content import SheetAsked, sheet_content

TEMPLATE = "job_sheet.typ"


def job_sheet(analysis: Analysis, asked: SheetAsked) -> bytes:
    """Return a design's job sheet as PDF.

    What people type reaches the template as data, never as markup.
    """
    content = json.dumps(sheet_content(analysis, asked))
    with as_file(files("leadsman.formats.job_sheet")) as folder:
        written: bytes = typst.compile(
            folder / TEMPLATE, root=folder, ignore_system_fonts=True, format="pdf", sys_inputs={"content": content}
        )
    return written
