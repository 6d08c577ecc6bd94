"""The job sheet as PDF, read back and looked at by libraries that share no code with the one that sets it."""

from io import BytesIO
from itertools import chain

import numpy as np
import pypdfium2
import pytest
from flask.testing import FlaskClient
from pypdf import PdfReader

from examples import Document, changed, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.unit_system import System
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.parts.parts_list import parts_list
from leadsman.core.report.parts import parts_report
from leadsman.demo import tamsel_ridge
from leadsman.formats.job_sheet.content import Paper, SheetAsked, sheet_content
from leadsman.formats.job_sheet.pdf import job_sheet

DAY = "2026-11-30"
ASKED = SheetAsked(revision=12, date=DAY, link="http://farm.example:8080/designs/3f2a/lines")


def read(design: Design, asked: SheetAsked = ASKED) -> PdfReader:
    return PdfReader(BytesIO(job_sheet(Analysis(design), asked)))


def words(reader: PdfReader) -> str:
    """All text with single blanks, words that were parted at the end of a line put together."""
    return " ".join(" ".join(page.extract_text() for page in reader.pages).replace("-\n", "-").split())


@pytest.fixture(scope="module")
def sheet() -> PdfReader:
    return read(tamsel_ridge())


@pytest.mark.parametrize(("paper", "mm"), [("a4", (210.0, 297.0)), ("us-letter", (215.9, 279.4))])
def test_it_is_on_the_paper_that_was_asked_for(paper: Paper, mm: tuple[float, float]) -> None:
    reader = read(read_design(one_line()), SheetAsked(date=DAY, paper=paper))
    for page in reader.pages:
        size = [float(side) / 72.0 * 25.4 for side in (page.mediabox.width, page.mediabox.height)]
        assert size == pytest.approx(mm, abs=0.1)


def test_every_page_is_numbered_and_says_what_it_is_of(sheet: PdfReader) -> None:
    count = len(sheet.pages)
    assert count > 8
    for number, page in enumerate(sheet.pages, start=1):
        text = " ".join(page.extract_text().split())
        assert f"page {number} of {count}" in text
        assert "Tamsel Ridge · Plan A · three branches · revision 12" in text
        assert DAY in text


def test_all_that_is_taken_outside_is_in_it(sheet: PdfReader) -> None:
    told, design = words(sheet), tamsel_ridge()
    report = parts_report(design)
    for head in (
        "Before you start", "Take care", "Order of work", "Shopping list", "Joints", "Holes", "Floats", "Profiles",
        "Laying", "First water",
    ):  # fmt: skip
        assert head in told
    close = "".join(told.split())  # how lines break is the paper's
    for row in parts_list(design).rows:
        assert "".join(row.name.split()) in close, row.name
    for part in chain(design.lines, design.vessels, design.outlets):
        assert "".join((part.name or part.id).split()) in close
    for joint in report.connections:
        for link in joint.chain.links if joint.chain else ():
            assert "".join(link.name.split()) in close
    assert "utilitylocatingservice" in close
    assert "Animalsdiewithindays" in close
    assert f"{report.price:,.2f} USD" in told


@pytest.mark.parametrize(("system", "figures"), [
    ("metric", ["closes 480 mm", "overflow 540 mm", "168 m", "3.0 L/min", "for 20 L"]),
    ("us", ["closes 18 7/8 in", "overflow 21 1/4 in", "551 ft", "0.80 gal/min", "for 5 gal"]),
])  # fmt: skip
def test_it_speaks_the_reader_s_units(system: System, figures: list[str]) -> None:
    told = words(read(tamsel_ridge(), SheetAsked(system=system, date=DAY)))
    assert not [figure for figure in figures if figure not in told]
    assert ("gal/min" in told) == (system == "us")


def test_it_can_be_read_in_greys() -> None:
    document = pypdfium2.PdfDocument(job_sheet(Analysis(tamsel_ridge()), ASKED))
    darkest = []
    for page in document:
        pixels = page.render(scale=0.6).to_numpy().astype(int)
        assert np.ptp(pixels[..., :3], axis=-1).max() <= 12  # bluish greys at most
        darkest.append(pixels[..., :3].min())
    assert max(darkest) < 90


def test_seconds_for_a_pail_are_those_of_the_flow_alone() -> None:
    analysis = Analysis(tamsel_ridge())
    told = {one["name"]: one for one in sheet_content(analysis, ASKED)["outlets"]}
    for outlet in analysis.fed_outlets:
        flow = analysis.flows_alone_m3s[outlet.id]
        seconds, _, pail = told[outlet.name or outlet.id]["seconds"].partition(" for ")
        litres = {"20 L": 20.0, "1 L": 1.0}[pail]
        assert float(seconds) == pytest.approx(litres / 1e3 / flow, abs=0.5)
    assert told["Mat valve"]["seconds"].endswith("for 1 L")


def test_what_people_type_is_printed_and_never_obeyed() -> None:
    nasty = '#read("/etc/passwd") $x^2$ *bold* <a> \\ "q'
    document: Document = changed(one_line(), {"name": nasty, "lines.0.name": nasty, "vessels.1.name": nasty})
    told = "".join(words(read(read_design(document))).split())
    assert told.count("".join(nasty.split())) >= 3
    assert "root:" not in told


def test_a_plan_without_anything_to_join_has_a_sheet_too() -> None:
    bare = {**write_design(tamsel_ridge()), "lines": [], "outlets": [], "vessels": [], "inflows": [], "standbys": []}
    for key in ("herds", "paddocks", "calendar", "crops", "timers", "ponds", "scenarios", "requirements", "shown_for"):
        bare.pop(key, None)
    for key in ("bench", "books", "sights", "distances"):
        bare.pop(key, None)
    told = words(read(read_design({**bare, "places": bare["places"][:1]}), SheetAsked(date=DAY, is_saved=False)))
    assert "not saved" in told


def test_the_api_hands_it_out_and_refuses_what_no_sheet_can_say(client: FlaskClient) -> None:
    asked = {"document": one_line(), "units": "us", "paper": "us-letter", "revision": 3, "date": DAY, "is_saved": False}
    answer = client.post("/api/analyses/parts/sheet", json=asked)
    assert answer.status_code == 200
    assert answer.mimetype == "application/pdf"
    assert answer.headers["Content-Disposition"].endswith('.job-sheet.pdf"')
    assert "revision 3 with unsaved changes" in words(PdfReader(BytesIO(answer.data)))
    for key, value in (("paper", "a5"), ("date", "tomorrow"), ("link", "javascript:alert(1)"), ("revision", 0)):
        refused = client.post("/api/analyses/parts/sheet", json={**asked, key: value})
        assert refused.status_code == 422
        assert refused.get_json()["faults"][0]["path"].startswith(f"/{key}")
