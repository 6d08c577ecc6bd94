"""What a plan costs as a whole: the price book, stands, digging, loads, what is lifted again, lease years, used."""

from typing import Any

import pytest
from flask.testing import FlaskClient
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, changed, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.catalogue import pipes
from leadsman.core.design.cost import price_of_change
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.price_book import price_of
from leadsman.core.parts.parts_list import parts_list
from leadsman.core.parts.whole_cost import WholeCost, whole_cost
from leadsman.core.report.options import options_report
from leadsman.core.report.whole_cost import whole_cost_report
from leadsman.core.sizing.size import size
from leadsman.demo import tamsel_ridge
from properties import examples

PIPE = "pe100-sdr17-32"
SHOP = {"product": PIPE, "price": 2.0, "shop": "Gate Store (made up)", "date": "2026-04-01"}


def priced(*prices: dict[str, Any], used: bool = False, put: Document | None = None) -> Document:
    return one_line(**{"prices": list(prices), "costs": {"buy_used": used}, **(put or {})})


def metre_of(document: Document) -> float | None:
    return price_of(read_design(document), pipes()[PIPE])


@pytest.mark.parametrize(("prices", "used", "metre"), [
    ([SHOP], False, 2.0),
    ([SHOP, {**SHOP, "price": 2.5, "date": "2026-09-01"}], False, 2.5),  # the latest of a shop
    ([{**SHOP, "price": 2.5, "date": "2026-09-01"}, SHOP], False, 2.5),  # in whatever order
    ([SHOP, {"product": PIPE, "price": 3.0, "shop": SHOP["shop"]}], False, 2.0),  # one without a day is older
    ([SHOP, {**SHOP, "price": 1.8, "shop": "Ford Yard (made up)", "date": "2025-01-01"}], False, 1.8),  # the cheapest
    ([SHOP, {**SHOP, "price": 0.5, "used": True}], False, 2.0),
    ([SHOP, {**SHOP, "price": 0.5, "used": True}], True, 0.5),
    ([SHOP, {**SHOP, "price": 2.6, "used": True}], True, 2.0),  # used and dearer
])  # fmt: skip
def test_a_price_of_the_book_counts_before_a_typical_one(prices: list[Any], used: bool, metre: float) -> None:
    assert metre_of(priced(*prices, used=used)) == metre


def test_without_an_entry_the_typical_price_counts_and_abroad_none() -> None:
    typical = pipes()[PIPE].price_per_m
    assert metre_of(priced({**SHOP, "product": "pe100-sdr17-40"})) == typical
    assert metre_of(priced(put={"site.currency": "NZD"})) is None
    assert metre_of(priced(SHOP, put={"site.currency": "NZD"})) == 2.0


def test_the_book_s_price_is_what_the_list_the_change_and_the_sizing_count() -> None:
    document = priced(SHOP, put={"lines.0.product": PIPE})
    row = next(row for row in parts_list(read_design(document)).rows if row.product_id == PIPE)
    assert row.price == 2.0 * (row.roll_m or 0.0)
    before, after = read_design(changed(document, {"lines.0.product": "pe100-sdr17-40"})), read_design(document)
    assert price_of_change(before, after) == pytest.approx(2.0 * after.lines[0].pipe_length_m)
    plain = size(read_design(one_line(**{"requirements.0.flow_lpm": 18})))
    (piece,) = plain.lines["line"]
    dear = {"product": piece.product_id, "price": 1_000.0}
    other = size(read_design(priced(dear, put={"requirements.0.flow_lpm": 18})))
    assert other.lines["line"][0].product_id != piece.product_id  # it is no longer the cheapest
    free = size(read_design(priced({**dear, "price": 0.0}, put={"requirements.0.flow_lpm": 18})))
    assert free.cost == 0.0


def whole(document: Document) -> WholeCost:
    design = read_design(document)
    return whole_cost(design, parts_list(design))


def rows_of(found: WholeCost) -> dict[str, float | None]:
    return {row.chapter: row.price for row in found.rows}


OWN = {"stand_per_m_t": 100.0, "digging_per_m": 3.0, "trip": 25.0, "load_kg": 400.0, "lease_years": 4.0,
       "kept_share": 0.4}  # fmt: skip


def stood(**costs: Any) -> Document:
    """A line of 200 m in a trench from a tank of 2 m³ on a stand of 1.5 m."""
    tank = {"kind": "box", "length_m": 2.0, "width_m": 1.0, "height_m": 1.0}
    return one_line(**{
        "vessels.0.shape": tank, "vessels.0.level_m": 0.5, "vessels.0.stand_m": 1.5, "lines.0.cover_m": 0.5,
        "lines.0.product": PIPE, "costs": {**OWN, **costs},
    })  # fmt: skip


def test_stands_digging_loads_and_lease_years_as_reckoned_by_hand() -> None:
    found = whole(stood())
    design = read_design(stood())
    long_m = design.lines[0].pipe_length_m
    assert rows_of(found)["stands"] == pytest.approx(1.5 * 2.0 * 100.0)
    assert rows_of(found)["digging"] == pytest.approx(3.0 * long_m)
    rolls_kg = parts_list(design).weight_kg
    assert rows_of(found)["bringing"] == 25.0 * -(-rolls_kg // 400.0)
    assert not any(row.typical for row in found.rows if row.chapter != "parts")
    # of what is buried nothing is lifted; of the stand and what stands at both ends 40 % of its price
    surface = [row for row in parts_list(design).rows if row.shop != "sundries" and "line" not in row.where]
    kept = 0.4 * sum(row.total or 0.0 for row in surface)
    mixed = [row for row in parts_list(design).rows if "line" in row.where and len(row.where) > 1]
    assert mixed == []
    assert found.lifted == pytest.approx(kept)
    spent = sum(row.price or 0.0 for row in found.rows)
    assert found.price == pytest.approx(spent)
    net = max(0.0, kept - (found.taking_away or 0.0))
    assert found.per_lease_year == pytest.approx((spent - net) / 4.0)


@pytest.mark.parametrize(("costs", "price"), [
    ({"digging": "by hand"}, 0.0),
    ({"digging": "hired machine", "machine_per_day": 200.0, "machine_m_per_day": 90.0}, 600.0),  # 200 m: three days
    ({"digging": "hired machine", "machine_per_day": 200.0, "machine_m_per_day": 100.0}, 400.0),  # just two
])  # fmt: skip
def test_a_machine_is_hired_for_whole_days_and_one_s_own_hands_cost_nothing(costs: Document, price: float) -> None:
    document = changed(stood(**costs), {"lines.0.points": [], "lines.0.length_m": 200.0})
    assert rows_of(whole(document))["digging"] == price


def test_what_lies_on_the_surface_is_lifted_and_what_is_buried_is_not() -> None:
    buried, surface = whole(stood()), whole(changed(stood(), {"lines.0.cover_m": 0.0}))
    assert "digging" not in rows_of(surface)
    design = read_design(stood())
    pipe = next(row for row in parts_list(design).rows if row.product_id == PIPE)
    assert surface.lifted - buried.lifted >= 0.4 * (pipe.total or 0.0)
    years = [one.per_lease_year or 0.0 for one in (surface, buried)]
    assert years[0] < years[1]


def test_typical_figures_are_marked_and_count_in_their_currency_only() -> None:
    bare = changed(stood(), {"costs": None})
    found = whole(bare)
    assert all(row.typical for row in found.rows)
    assert found.per_lease_year is None
    abroad = whole(changed(bare, {"site.currency": "EUR"}))
    assert {row.price for row in abroad.rows if row.chapter in ("stands", "digging", "bringing")} == {None}
    assert not abroad.is_known


def test_used_stands_beside_new_and_is_taken_where_it_is_bought() -> None:
    used = {"product": PIPE, "price": 0.2, "used": True}
    (beside,) = whole(priced(SHOP, used, put={"lines.0.product": PIPE})).used
    (taken,) = whole(priced(SHOP, used, used=True, put={"lines.0.product": PIPE})).used
    assert (beside.is_taken, taken.is_taken) == (False, True)
    assert beside.new == taken.new == pytest.approx(10.0 * beside.used)
    assert whole(priced(SHOP, put={"lines.0.product": PIPE})).used == []


@examples(40)
@given(years=st.floats(0.5, 50.0), longer=st.floats(0.1, 50.0), kept=st.floats(0.0, 1.0))
def test_a_longer_lease_never_costs_more_a_year_and_what_keeps_more_never_does(
    years: float, longer: float, kept: float
) -> None:
    found = [
        whole(stood(lease_years=each, kept_share=share)).per_lease_year or 0.0
        for each, share in ((years, kept), (years + longer, kept), (years, 1.0))
    ]
    assert found[1] <= found[0] + 1e-9
    assert found[2] <= found[0] + 1e-9


def test_plans_side_by_side_tell_their_whole_cost_and_a_year_of_the_lease() -> None:
    documents = [stood(), changed(stood(), {"lines.0.cover_m": 0.0})]
    told = options_report([Analysis(read_design(one)) for one in documents])
    abouts = {row.about for row in told.rows if row.chapter == "cost"}
    assert {"With stands, digging and bringing", "A year of the lease"} <= abouts


def test_a_stand_is_paid_once() -> None:
    needed = parts_list(read_design(stood()))
    stand = next(row for row in needed.rows if row.product_id == "stand-tank")
    assert stand.total == pytest.approx(300.0)
    assert sum(row.price or 0.0 for row in whole(stood()).rows if row.chapter in ("parts", "stands")) == pytest.approx(
        needed.price
    )
    own = changed(stood(), {"prices": [{"product": "stand-tank", "price": 55.0}]})
    assert rows_of(whole(own))["stands"] == 55.0


def test_the_demonstration_s_costs_are_marked_as_typical() -> None:
    design = tamsel_ridge()
    report = whole_cost_report(design, parts_list(design))
    assert all(row.typical for row in report.rows if row.price)
    assert report.typical.trip is not None


@pytest.mark.parametrize(("put", "path"), [
    ({"prices": [{**SHOP, "price": -1.0}]}, "/document/prices/0/price"),
    ({"prices": [{**SHOP, "date": "2026-02-30"}]}, "/document/prices/0/date"),
    ({"prices": [{**SHOP, "product": "no spaces"}]}, "/document/prices/0/product"),
    ({"costs": {"kept_share": 1.2}}, "/document/costs/kept_share"),
    ({"costs": {"lease_years": 0.0}}, "/document/costs/lease_years"),
    ({"costs": {"digging": "by magic"}}, "/document/costs/digging"),
])  # fmt: skip
def test_a_price_that_cannot_be_is_refused_with_its_path(client: FlaskClient, put: Document, path: str) -> None:
    document = {**write_design(tamsel_ridge()), **put}
    response = client.post("/api/analyses/parts", json={"document": document})
    assert response.status_code == 422
    assert [fault["path"] for fault in response.get_json()["faults"]] == [path]


def test_a_stand_without_any_price_says_so_and_what_would_help() -> None:
    abroad = changed(stood(), {
        "site.currency": "EUR", "costs": None, "sizing": {"stands": [{"vessel": "tank", "most_m": 1.0}]},
    })  # fmt: skip
    with pytest.raises(DesignFaults) as refused:
        size(read_design(abroad))
    (fault,) = refused.value.faults
    assert (fault.path, fault.found, fault.allowed) == ("/sizing/stands/0/price_per_m", "no price", "a price in EUR")
