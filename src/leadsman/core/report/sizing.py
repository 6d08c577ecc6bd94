"""JSON of sizing: the cheapest pipes of each line, what they cost, the gap that is proven, why not cheaper."""

from leadsman.core.design import Design
from leadsman.core.report.base import Report, Words, words
from leadsman.core.sizing.size import Sized


class SizedPiece(Report):
    product: str
    length_m: float


class WhyReport(Report):
    """Why a part is not of its next cheaper choice."""

    part: str
    choice: str
    where: str
    reason: Words


class SizeReport(Report):
    """A sized plan; `proven_gap` is by what share of its cost a cheaper one may at most exist: 0 where none does."""

    cost: float
    lines: dict[str, list[SizedPiece]]
    valves: dict[str, str]
    rises_m: dict[str, float]
    proven_gap: float
    why: list[WhyReport]


def size_report(sized: Sized) -> SizeReport:
    """Return what sizing found."""
    return SizeReport(
        cost=round(sized.cost, 6),
        lines={
            line: [SizedPiece(product=piece.product_id, length_m=piece.length_m) for piece in pieces]
            for line, pieces in sized.lines.items()
        },
        valves=sized.valves,
        rises_m=sized.rises_m,
        proven_gap=sized.proven_gap,
        why=[WhyReport(part=one.part, choice=one.choice, where=one.where, reason=words(one.told)) for one in sized.why],
    )


def printed_size(report: SizeReport, design: Design) -> str:
    """Return a sized plan as text."""
    rows = [
        f"{line:24} " + ", then ".join(f"{piece.length_m:.1f} m of {piece.product}" for piece in pieces)
        for line, pieces in report.lines.items()
    ]
    rows += [f"{outlet:24} {valve}" for outlet, valve in report.valves.items()]
    rows += [f"{vessel:24} {rise_m:.2f} m higher" for vessel, rise_m in report.rises_m.items() if rise_m > 0.0]
    proven = "proven" if report.proven_gap == 0.0 else f"no plan is cheaper by more than {report.proven_gap:.1%}"
    rows.append(f"cost {report.cost:,.2f} {design.site.currency}, {proven}")
    return "\n".join(rows)
