"""The ledger: litres, hours, trips and money before the line and since, and when it has paid for itself."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import TypeGuard

from leadsman.core.base.errors import require_between
from leadsman.core.field.entry import Noted, standing

MINUTE_KEYS = ("minutes", "fill_min", "empty_min")  # on the way, filling, pumping out
MONEY_KEYS = ("fuel_money", "water_money", "money")
WORKED_KINDS = ("trip", "service", "mend", "move", "look")
MOST_WAGE, MOST_PRICE = 1e4, 1e8


@dataclass(frozen=True, kw_only=True)
class Totals:
    """What some days took: litres hauled, trips, hours, and money that was paid; the hours are not in the money."""

    days: int
    trips: int = 0
    litres: float = 0.0
    hours: float = 0.0
    money: float = 0.0

    def per_day(self, wage: float) -> float | None:
        """Return what a day costs, an hour at a wage; None without any day."""
        return (self.money + wage * self.hours) / self.days if self.days else None


@dataclass(frozen=True, kw_only=True)
class Month:
    """A month, as 2031-06, and what it took."""

    month: str
    totals: Totals


@dataclass(frozen=True, kw_only=True)
class Ledger:
    """What it took before the line ran, and since; by month; in how many days the line pays for itself.

    `begun` is the day on which the line ran; None where it does not yet. `payback_d` is None where the price is not
    known, where nothing was noted before or since, or where nothing is saved.
    """

    before: Totals
    after: Totals
    begun: date | None
    months: list[Month] = field(default_factory=list)
    saved_per_day: float | None = None
    payback_d: float | None = None


def ledger(
    entries: Iterable[Noted], today: date, begun: date | None, wage: float = 0.0, price: float | None = None
) -> Ledger:
    """Return the ledger of a log: trips, work and money noted, before a day and from then on.

    Args:
        begun: the day from which the line ran; None where it does not yet.
        wage: what an hour of one's own is counted as, in the site's money, 0 or more.
        price: what the line cost, in the site's money; None where that is not known.

    Raises:
        OutOfRange: a wage or price below 0 or beyond all sense.
    """
    require_between("wage", wage, 0.0, MOST_WAGE, "/wage")
    if price is not None:
        require_between("price", price, 0.0, MOST_PRICE, "/price")
    noted = [_worked(one) for one in standing(entries) if one.kind in WORKED_KINDS]
    first = min((one.day for one in noted), default=today)
    early = [one for one in noted if begun is None or one.day < begun]
    late = [one for one in noted if begun is not None and one.day >= begun]
    before = _totals(early, ((begun or today) - first).days + (0 if begun else 1) if early else 0)
    after = _totals(late, (today - begun).days + 1 if begun is not None else 0)
    by_month: dict[str, list[_Worked]] = {}
    for one in noted:
        by_month.setdefault(one.day.isoformat()[:7], []).append(one)
    dear, cheap = before.per_day(wage), after.per_day(wage)
    saved = None if dear is None or cheap is None else dear - cheap
    return Ledger(
        before=before, after=after, begun=begun, saved_per_day=saved,
        months=[Month(month=name, totals=_totals(own, 0)) for name, own in sorted(by_month.items())],
        payback_d=price / saved if price is not None and saved is not None and saved > 0.0 else None,
    )  # fmt: skip


def line_begun(entries: Iterable[Noted]) -> date | None:
    """Return the day on which the line was filled and flushed, by the steps of first water; None before that."""
    ends = [
        one.happened_at.date()
        for one in standing(entries)
        if one.kind == "step" and one.figures.get("step") == "flush" and one.figures.get("ended") == "done"
    ]
    return min(ends, default=None)


@dataclass(frozen=True, slots=True)
class _Worked:
    """What one entry took."""

    day: date
    trips: int
    litres: float
    minutes: float
    money: float


def _worked(entry: Noted) -> _Worked:
    given = {key: float(value) for key, value in entry.figures.items() if _counts(value)}
    trip = entry.kind == "trip"
    return _Worked(
        entry.happened_at.date(),
        1 if trip else 0,
        given.get("litres", 0.0) if trip else 0.0,
        sum(given.get(key, 0.0) for key in MINUTE_KEYS) if given else 0.0,
        sum(given.get(key, 0.0) for key in MONEY_KEYS) if given else 0.0,
    )


def _counts(value: object) -> TypeGuard[float]:
    return isinstance(value, (int, float)) and not isinstance(value, bool) and value > 0.0


def _totals(entries: Sequence[_Worked], days: int) -> Totals:
    return Totals(
        days=days,
        trips=sum(one.trips for one in entries),
        litres=sum(one.litres for one in entries),
        hours=sum(one.minutes for one in entries) / 60.0,
        money=sum(one.money for one in entries),
    )
