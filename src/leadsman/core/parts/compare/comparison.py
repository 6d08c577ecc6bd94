"""What every comparison is: rows side by side under columns, with what it rests on."""

from dataclasses import dataclass, field

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Design, Line, OutletBase
from leadsman.core.design.price_book import in_site_money


@dataclass(frozen=True, kw_only=True)
class ComparedRow:
    """One part or one way of doing it: a cell for each column; `is_now` where it is the plan's own."""

    name: str
    cells: list[Wording]
    is_now: bool = False


@dataclass(frozen=True, kw_only=True)
class Comparison:
    """A question, the columns of its answer, and what the figures rest on."""

    key: str
    title: str
    columns: list[str]
    rows: list[ComparedRow]
    notes: list[Wording] = field(default_factory=list)


def last_line(analysis: Analysis, outlet: OutletBase) -> Line | None:
    """Return the line that leads to an outlet, or to the junction that it draws from; None where none does."""
    own = next((line for line in analysis.document.lines if line.to == outlet.id), None)
    route = analysis.routes[outlet.id]
    if own is not None or route is None:
        return own
    last = route.legs[-1].line.id
    return next(line for line in analysis.document.lines if line.id == last)


def money(design: Design, price: float | None, own: bool = False) -> Wording:
    """Return a price in the site's currency, to the whole; a dash where it is not known."""
    known = in_site_money(design, price, own)
    return say("–") if known is None else say("{} {}", f"{known:,.0f}", design.site.currency)


def litres(value_l: float) -> Quantity:
    """Return a volume."""
    return Quantity(value=value_l, unit="L")


def flow(flow_m3s: float) -> Quantity:
    """Return a flow."""
    return Quantity(value=lpm_from_m3s(flow_m3s), unit="L/min")


def metres(value_m: float, digits: int = 0) -> Quantity:
    """Return a length."""
    return Quantity(value=value_m, unit="m", digits=digits)
