"""Designs made of one by small changes."""

import pytest

from examples import one_line
from leadsman.core.base.fault import DesignFaults
from leadsman.core.catalogue import pipes
from leadsman.core.design.cost import price_of_change
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.variant import Variants
from leadsman.demo import tamsel_ridge


def test_a_variant_shares_what_did_not_change_and_leaves_the_design_as_it_was() -> None:
    ridge = tamsel_ridge()
    variants = Variants(ridge)
    document = variants.document()
    assert document == write_design(ridge)
    document["lines"][0] |= {"length_m": 1.25 * document["lines"][0]["length_m"], "points": [], "way": []}
    document["requirements"].pop()
    after = variants.design(document)
    assert after == read_design(document)
    assert after.lines[0].length_m == 1.25 * (ridge.lines[0].length_m or 0.0)
    assert all(one is other for one, other in zip(after.lines[1:], ridge.lines[1:], strict=True))
    assert all(one is other for one, other in zip(after.outlets, ridge.outlets, strict=True))
    assert variants.design(variants.document()) == ridge


def test_a_variant_costs_what_the_same_design_read_by_itself_costs() -> None:
    ridge = tamsel_ridge()
    variants = Variants(ridge)
    same, longer, wider = (variants.document() for _ in range(3))
    number = next(number for number, line in enumerate(ridge.lines) if line.id == "roof-feed")
    longer["lines"][number]["length_m"] += 46.0
    wider["lines"][number]["product"] = "pe100-sdr13.6-63"
    prices = [price_of_change(ridge, variants.design(changed)) for changed in (same, longer, wider)]
    assert prices == [price_of_change(ridge, read_design(changed)) for changed in (same, longer, wider)]
    before, after = (pipes()[product].price_per_m or 0.0 for product in ("pe100-sdr17-32", "pe100-sdr13.6-63"))
    assert prices == pytest.approx([0.0, 46.0 * before, 92.0 * after], abs=0.01)


def test_what_is_no_design_tells_its_faults_and_the_next_is_read_all_the_same() -> None:
    design = read_design(one_line())
    variants = Variants(design)
    document = variants.document()
    document["lines"][0]["from"] = "nowhere"
    with pytest.raises(DesignFaults) as refused:
        variants.design(document)
    assert [fault.path for fault in refused.value.faults] == ["/lines/0/from"]
    assert variants.design(variants.document()) == design
