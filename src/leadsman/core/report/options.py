"""JSON of plans side by side: only what differs, in cost, flows, time to fill, days in hand, parts and findings."""

from collections.abc import Sequence
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import MINUTE_S, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Unit, Wording, plain
from leadsman.core.design import Design, labels
from leadsman.core.findings.registry import Finding, checks, judge
from leadsman.core.findings.verdict import Standing, verdict
from leadsman.core.parts.parts_list import parts_list
from leadsman.core.parts.whole_cost import whole_cost
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.yearly import yearly_report

Chapter = Literal["cost", "water", "year", "parts", "findings"]
NONE: Wording = ("—",)


class OptionsRow(Report):
    """One figure of each plan; `best` is the number of the plan that does best, where that can be said."""

    chapter: Chapter
    about: str
    cells: list[Words]
    best: int | None = None


class OptionHead(Report):
    """A plan that is compared: its name, how it stands, and the sentence on top."""

    name: str
    standing: Standing
    sentence: Words


class OptionsReport(Report):
    """Plans side by side: rows only where they differ; `alike` is how many figures are the same in all."""

    plans: list[OptionHead]
    rows: list[OptionsRow]
    alike: int


class _Table:
    """Rows that differ, and how many do not."""

    def __init__(self) -> None:
        self.rows: list[OptionsRow] = []
        self.alike = 0

    def add(self, chapter: Chapter, about: str, cells: Sequence[Wording], best: int | None = None) -> None:
        """Take a row up where its cells differ."""
        if len({plain(cell) for cell in cells}) == 1:
            self.alike += 1
            return
        self.rows.append(OptionsRow(chapter=chapter, about=about, cells=[words(cell) for cell in cells], best=best))

    def figures(
        self,
        chapter: Chapter,
        about: str,
        values: Sequence[float | None],
        unit: Unit,
        better: int,
        digits: int | None = None,
    ) -> None:
        """Take up a row of figures of one unit; `better` is 1 where more is better, −1 where less is, 0 for neither."""
        known = [(better * value, -number) for number, value in enumerate(values) if value is not None]
        told = [NONE if value is None else (Quantity(value=value, unit=unit, digits=digits),) for value in values]
        self.add(chapter, about, told, -max(known)[1] if better and known else None)


def options_report(analyses: Sequence[Analysis]) -> OptionsReport:
    """Return plans side by side, each in the case that it shows."""
    findings = [judge(analysis) for analysis in analyses]
    table = _Table()
    _costs(table, [analysis.document for analysis in analyses])
    _water(table, analyses, findings)
    years = [yearly_report(analysis) for analysis in analyses]
    table.figures("year", "Metered water in a year", [year.metered_l for year in years], "L", -1, 0)
    table.figures("year", "Hauled in a year", [year.hauled_l for year in years], "L", -1, 0)
    hours = [year.haul_h for year in years]
    table.add("year", "Hours of hauling in a year", [(f"{each:.0f} h",) for each in hours], hours.index(min(hours)))
    _parts(table, [analysis.document for analysis in analyses])
    _findings(table, findings)
    heads = []
    for analysis, found in zip(analyses, findings, strict=True):
        told = verdict(analysis, found)
        heads.append(
            OptionHead(name=analysis.document.name, standing=told.standing, sentence=words(told.sentence))
        )  # fmt: skip
    return OptionsReport(plans=heads, rows=table.rows, alike=table.alike)


def _unpriced(count: int) -> str:
    return "" if not count else f", and {count} without a price"


def _costs(table: _Table, designs: Sequence[Design]) -> None:
    lists = [parts_list(design) for design in designs]
    told: list[Wording] = [
        (
            f"{one.price:,.2f} {design.site.currency}",
            f", {len(one.unpriced)} parts without a price" if one.unpriced else "",
        )
        for one, design in zip(lists, designs, strict=True)
    ]
    known = len({design.site.currency for design in designs}) == 1 and not any(one.unpriced for one in lists)
    prices = [one.price for one in lists]
    table.add("cost", "Parts left to buy", told, prices.index(min(prices)) if known else None)
    wholes = [whole_cost(design, one) for one, design in zip(lists, designs, strict=True)]
    sums: list[Wording] = [
        (f"{one.price:,.2f} {design.site.currency}", "" if one.is_known else ", as far as known")
        for one, design in zip(wholes, designs, strict=True)
    ]
    totals = [one.price for one in wholes]
    all_known = known and all(one.is_known for one in wholes)
    table.add(
        "cost", "With stands, digging and bringing", sums, totals.index(min(totals)) if all_known else None
    )  # fmt: skip
    if any(one.per_lease_year is not None for one in wholes):
        yearly = [one.per_lease_year for one in wholes]
        a_year: list[Wording] = [
            NONE if each is None else (f"{each:,.2f} {design.site.currency}",)
            for each, design in zip(yearly, designs, strict=True)
        ]
        every = [each for each in yearly if each is not None]
        least = yearly.index(min(every)) if all_known and len(every) == len(yearly) else None
        table.add("cost", "A year of the lease", a_year, least)
    table.figures("cost", "Weight of what is bought", [one.weight_kg for one in lists], "kg", 0, 0)


def _water(table: _Table, analyses: Sequence[Analysis], findings: Sequence[list[Finding]]) -> None:
    names: dict[str, str] = {}
    for analysis in analyses:
        names = {**labels(analysis.document), **names}
    outlets = list(dict.fromkeys(outlet.id for analysis in analyses for outlet in analysis.design.outlets))
    fed = [{outlet.id: outlet for outlet in analysis.fed_outlets} for analysis in analyses]
    for outlet_id in outlets:
        flows = [
            lpm_from_m3s(analysis.answer(own[outlet_id]).judged_flow_m3s) if outlet_id in own else None
            for analysis, own in zip(analyses, fed, strict=True)
        ]
        table.figures("water", f"{names[outlet_id]}, all open", flows, "L/min", 1)
    for outlet_id in outlets:
        refills = [analysis.refills.get(outlet_id) for analysis in analyses]
        times = [None if one is None or one.time_s is None else one.time_s / MINUTE_S for one in refills]
        table.figures("water", f"{names[outlet_id]}, full again in", times, "min", -1, 0)
    for key, better in (("days", 1), ("spare", 1)):
        numbers = [
            next(one for one in verdict(analysis, found).numbers if one.key == key)
            for analysis, found in zip(analyses, findings, strict=True)
        ]
        known = [one.value.value if one.value is not None else None for one in numbers]
        unit = next((one.value.unit for one in numbers if one.value is not None), None)
        if unit is not None:
            title = plain(numbers[0].title)
            table.figures("water", title[:1].upper() + title[1:], known, unit, better, 1 if key == "days" else 0)


def _parts(table: _Table, designs: Sequence[Design]) -> None:
    counts: dict[str, list[float]] = {}
    units: dict[str, str] = {}
    for number, design in enumerate(designs):
        for row in parts_list(design).rows:
            counts.setdefault(row.name, [0.0] * len(designs))[number] += row.count
            units[row.name] = row.unit
    for name, each in sorted(counts.items()):
        metres = units[name] == "m"
        told: list[Wording] = [
            NONE if not count else (Quantity(value=count, unit="m", digits=0),) if metres else (f"{count:g}",)
            for count in each
        ]
        table.add("parts", name, told)


def _findings(table: _Table, findings: Sequence[list[Finding]]) -> None:
    titles = {check.code: check.title for check in checks()}
    keys = list(dict.fromkeys((one.code, one.where) for found in findings for one in found))
    for code, where in keys:
        own = [[one for one in found if (one.code, one.where) == (code, where)] for found in findings]
        told: list[Wording] = [one[0].headline if one else NONE for one in own]
        table.add("findings", titles[code], told)
