"""The core's own answers for the demonstration design, as the page should show them."""

import copy
from collections.abc import Callable
from typing import Any

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design, write_design
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import verdict
from leadsman.demo import tamsel_ridge

US_GALLON_L = 3.785411784


def expected(change: Callable[[Any], object] = lambda _: None) -> Analysis:
    """The core's own analysis of the demonstration design with a change."""
    document = copy.deepcopy(write_design(tamsel_ridge()))
    change(document)
    return Analysis(read_design(document))


def number(analysis: Analysis, key: str) -> str:
    """One of the four numbers as the strip shows it."""
    value = next(one for one in verdict(analysis, judge(analysis)).numbers if one.key == key).value
    assert value is not None
    digits = {"L/min": 1, "min": 0, "d": 1, "L/d": 0}[value.unit]
    text = f"{value.value:,.{digits}f}".replace(",", " ").replace("-", "−")
    return text.removesuffix(".0") if value.unit == "d" else text


def gallons(analysis: Analysis) -> str:
    """The flow of the strip in US gallons a minute."""
    value = next(one for one in verdict(analysis, judge(analysis)).numbers if one.key == "flow").value
    assert value is not None
    return f"{value.value / US_GALLON_L:.2f} gal/min"


def one(document: Any, kind: str, part_id: str, key: str = "id") -> Any:
    """A part of the document by its id, or by another key that names it."""
    return next(part for part in document[kind] if part.get(key) == part_id)
