"""The workbook of parts, opened by a library that shares no code with the one that writes it."""

from io import BytesIO

import pytest
from flask.testing import FlaskClient
from openpyxl import load_workbook
from openpyxl.workbook import Workbook

from examples import changed
from leadsman.core.base.unit_system import System
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.parts.parts_list import parts_list
from leadsman.core.report.parts import parts_report
from leadsman.demo import tamsel_ridge
from leadsman.formats.parts_workbook import parts_workbook


def opened(design: Design, system: System = "metric", *, values: bool = True) -> Workbook:
    return load_workbook(BytesIO(parts_workbook(design, parts_report(design), system)), data_only=values)


@pytest.mark.parametrize(("system", "unit", "factor"), [("metric", "m", 1.0), ("us", "ft", 1 / 0.3048)])
def test_every_row_and_its_price_are_in_the_workbook(system: System, unit: str, factor: float) -> None:
    needed = parts_list(tamsel_ridge())
    sheet = opened(tamsel_ridge(), system)["To buy"]
    rows = {row[2]: row for row in sheet.iter_rows(min_row=2, values_only=True) if row[2]}
    assert set(rows) == {row.product_id for row in needed.rows}
    for row in needed.rows:
        scale = factor if row.unit == "m" else 1.0
        told = rows[row.product_id]
        assert told[4] == pytest.approx(row.count * scale, abs=0.06 * scale)
        assert told[8] == (None if row.total is None else pytest.approx(row.total, abs=0.01))
        if row.price is not None:
            assert told[6] * told[7] == pytest.approx(row.total, abs=0.01)
    assert rows["hose-0.5"][3] == unit
    last = [row for row in sheet.iter_rows(values_only=True) if row[1] == "Sum of what has a price"]
    assert last[0][8] == pytest.approx(needed.price, abs=0.01)


def test_totals_are_formulas_and_what_people_type_never_is() -> None:
    document = changed(write_design(tamsel_ridge()), {"lines.0.name": "=1+1", "vessels.0.name": "+SUM(A1:A9)"})
    book = opened(read_design(document), values=False)
    formulas = {
        (name, cell.column_letter)
        for name in book.sheetnames
        for row in book[name].iter_rows()
        for cell in row
        if cell.data_type == "f"
    }
    assert formulas == {("To buy", "I")}
    texts = {cell.value for name in book.sheetnames for row in book[name].iter_rows() for cell in row}
    assert "=1+1" in texts


def test_joints_and_laying_are_there_too() -> None:
    report = parts_report(tamsel_ridge())
    book = opened(tamsel_ridge())
    assert book["Joints"].max_row == 1 + len(report.connections)
    assert book["Laying"].max_row == 1 + sum(len(sheet.stops) for sheet in report.laying)
    assert book["Order of work"].max_row == 1 + len(report.work)
    weights = [row[12] for row in book["To buy"].iter_rows(min_row=2, values_only=True) if row[2] and row[12]]
    assert sum(weights) == pytest.approx(report.weight_kg, abs=1.0)
    seals = [row[6] for row in book["Joints"].iter_rows(min_row=2, values_only=True)]
    assert sum(bool(seal) for seal in seals) == sum(one.chain is not None for one in report.connections)


def test_costs_are_a_sheet_of_their_own_and_a_price_tells_its_shop() -> None:
    document = write_design(tamsel_ridge())
    document["prices"] = [{"product": "hose-0.5", "price": 1.25, "shop": "Gate Store (made up)", "date": "2026-04-01"}]
    document["costs"] = {"lease_years": 5.0, "digging_per_m": 3.0}
    design = read_design(document)
    book = load_workbook(BytesIO(parts_workbook(design, parts_report(design), "metric")))
    costs = {row[0]: row[1:] for row in book["Costs"].iter_rows(min_row=2, values_only=True)}
    trench = next(name for name in costs if str(name).startswith("Trench"))
    long_m = sum(line.pipe_length_m for line in design.lines if line.cover_m > 0.0)
    assert costs[trench][:2] == (pytest.approx(3.0 * long_m), None)
    assert costs["A year of the lease, of 5"][0] > 0.0
    rows = {row[2]: row for row in book["To buy"].iter_rows(min_row=2, values_only=True)}
    assert rows["hose-0.5"][7] == 1.25
    assert rows["hose-0.5"][12 + 1] == "Gate Store (made up), 2026-04-01"


def test_the_api_hands_it_out_by_the_plan_s_name(client: FlaskClient) -> None:
    asked = {"document": write_design(tamsel_ridge()), "units": "us"}
    answer = client.post("/api/analyses/parts/workbook", json=asked)
    assert answer.status_code == 200
    assert 'filename="tamsel-ridge-plan-a-three-branches.parts.xlsx"' in answer.headers["Content-Disposition"]
    assert load_workbook(BytesIO(answer.data)).sheetnames == ["To buy", "Joints", "Laying", "Order of work", "Costs"]
    refused = client.post("/api/analyses/parts/workbook", json={**asked, "units": "cubits"})
    assert refused.status_code == 422
    assert [fault["path"] for fault in refused.get_json()["faults"]] == ["/units"]
