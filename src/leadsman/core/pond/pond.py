"""Each pond of a plan: its levels, where its float may go, changes of water, what its top-up says, treated mains."""

from dataclasses import dataclass
from enum import Enum

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cached import once_for_each
from leadsman.core.base.units import DAY_S, LITRE_M3, MILLIMETRE_M, MINUTE_S, lpm_from_m3s, m3s_from_lpm
from leadsman.core.base.wording import Unit
from leadsman.core.design import FloatValveOutlet, OutletBase, PondLoss, Vessel
from leadsman.core.design.store import shape_of
from leadsman.core.farm.growing import evaporated_mm, pond_demand, surface_m2
from leadsman.core.pond.levels import Basin, LoopLevels, loop_fall_m, loop_levels

EVAPORATION_ERROR = 0.3  # of what is reckoned: a pan factor is good to about that; ours, no source
WEEK_D = 7.0


class FloatPlace(Enum):
    """Where the float that tops up a pond is."""

    POND = "pond"
    FILTER = "filter"
    BALANCE = "balance"


@dataclass(frozen=True, kw_only=True)
class Change:
    """One change of water: litres, minutes to let out (None: the flow is unknown), and to fill again.

    `refill_s` is None where the feed does not make up for what the pond loses meanwhile; `between_s` until the next.
    """

    volume_l: float
    out_s: float | None
    refill_s: float | None
    between_s: float

    @property
    def catches_up(self) -> bool:
        """Whether it is full again before the next change begins."""
        return self.refill_s is not None and (self.out_s or 0.0) + self.refill_s <= self.between_s


@dataclass(frozen=True, kw_only=True)
class TopUp:
    """What tops up a pond on a day without rain [L/d]: by what it loses, least and most, and as measured.

    `depth_mm` is what the difference takes off the pond in a day where nothing tops it up.
    """

    expected_lpd: float
    least_lpd: float
    most_lpd: float
    measured_lpd: float | None
    area_m2: float

    @property
    def unexplained_lpd(self) -> float | None:
        """What is topped up over the most that is explained [L/d]; None where nothing was measured."""
        return None if self.measured_lpd is None else self.measured_lpd - self.most_lpd

    @property
    def hides_leak(self) -> bool:
        """Whether more is topped up than evaporation, seepage, changes and discharge explain."""
        return self.unexplained_lpd is not None and self.unexplained_lpd > 0.0


@dataclass(frozen=True, kw_only=True)
class Pond:
    """A pond of the plan. `outlet` tops it up, through the vessel `floats_in`; None where nothing does.

    `keeps_m` is the height at which its water is kept [m on the datum], `levels` those with its pump on and off.
    """

    number: int
    pond: PondLoss
    basin: Basin
    outlet: FloatValveOutlet | None
    floats_in: Basin | None
    place: FloatPlace | None
    keeps_m: float | None
    chamber: Basin | None
    levels: LoopLevels | None
    feed_m3s: float
    change: Change | None
    top_up: TopUp

    @property
    def vessel(self) -> Vessel:
        return self.basin.vessel

    @property
    def waves_over_m(self) -> float | None:
        """How far waves reach over the overflow, the float shut [m]; None where nothing keeps its level."""
        if self.keeps_m is None or self.vessel.overflow_m is None:
            return None
        highest = max(self.keeps_m, self.levels.off_m if self.levels else self.keeps_m)
        return highest + self.pond.wave_mm * MILLIMETRE_M - self.basin.brim_m

    @property
    def storm_over_l(self) -> float | None:
        """What of a storm on it runs over, the float shut at its level [L]; None where no storm or level is known."""
        if self.keeps_m is None or self.pond.storm_mm is None:
            return None
        rises_m = self.pond.storm_mm * MILLIMETRE_M
        room_m = max(0.0, self.basin.brim_m - self.keeps_m)
        return max(0.0, rises_m - room_m) * self.basin.area_m2(self.keeps_m) / LITRE_M3


@once_for_each
def ponds(analysis: Analysis) -> list[Pond]:
    """Return every pond of a plan whose losses are told, worked out once."""
    return [_pond(analysis, number, pond) for number, pond in enumerate(analysis.document.ponds)]


def _pond(analysis: Analysis, number: int, pond: PondLoss) -> Pond:
    layout = analysis.model.layout
    vessel = layout.vessels[pond.vessel]
    basin = Basin(vessel=vessel, floor_m=layout.floor_m(vessel))
    loop = pond.circulation
    chamber = None
    if loop is not None:
        own = layout.vessels[loop.chamber]
        chamber = Basin(vessel=own, floor_m=layout.floor_m(own))
    fall_m = loop_fall_m(loop, analysis.model.water) if loop is not None else 0.0
    outlet, floats_in, place = _topped_by(analysis, pond)
    keeps_m = None
    if outlet is not None and floats_in is not None:
        surface_m = floats_in.floor_m + outlet.valve.closes_at_m
        keeps_m = surface_m + fall_m if place is FloatPlace.FILTER else surface_m
    levels = None
    if loop is not None and chamber is not None:
        levels = loop_levels(
            loop, basin, chamber, basin.floor_m + vessel.level_m if keeps_m is None else keeps_m, fall_m
        )
    feed_m3s = analysis.flows_alone_m3s.get(outlet.id, 0.0) if outlet is not None else 0.0
    return Pond(
        number=number, pond=pond, basin=basin, outlet=outlet, floats_in=floats_in, place=place, keeps_m=keeps_m,
        chamber=chamber, levels=levels, feed_m3s=feed_m3s,
        change=_change(pond, vessel, feed_m3s), top_up=_top_up(pond, vessel),
    )  # fmt: skip


def _topped_by(analysis: Analysis, pond: PondLoss) -> tuple[FloatValveOutlet | None, Basin | None, FloatPlace | None]:
    """Return the float that tops up a pond, straight, in its filter chamber, or in a chamber that shares its level."""
    layout = analysis.model.layout
    chamber = pond.circulation.chamber if pond.circulation is not None else None
    balance = _joined(analysis, pond.vessel) - {chamber}
    for place, vessels in (
        (FloatPlace.POND, {pond.vessel}), (FloatPlace.FILTER, {chamber}), (FloatPlace.BALANCE, balance),
    ):  # fmt: skip
        for outlet in analysis.fed_outlets:
            if isinstance(outlet, FloatValveOutlet) and outlet.fills is not None and outlet.fills in vessels:
                vessel = layout.vessels[outlet.fills]
                return outlet, Basin(vessel=vessel, floor_m=layout.floor_m(vessel)), place
    return None, None, None


def _joined(analysis: Analysis, vessel_id: str) -> set[str | None]:
    """Return the chambers that an open line without pump or check valve joins to a pond: they share its level."""
    found: set[str | None] = set()
    for line in analysis.design.lines:
        closes = line.shut or line.pump is not None or any(part.kind == "check_valve" for part in line.inline)
        ends = {line.from_, line.to}
        if not closes and vessel_id in ends:
            other = (ends - {vessel_id}).pop()
            vessel = analysis.model.layout.vessels.get(other)
            if vessel is not None and vessel.role == "chamber":
                found.add(other)
    return found


def _change(pond: PondLoss, vessel: Vessel, feed_m3s: float) -> Change | None:
    if pond.change_percent_week <= 0.0:
        return None
    volume_m3 = shape_of(vessel).volume_m3(vessel.level_m)
    share = pond.change_percent_week / 100.0 / pond.changes_per_week
    between_s = WEEK_D * DAY_S / pond.changes_per_week
    changed_m3 = min(1.0, share) * volume_m3
    lost_m3s = pond_demand(pond.model_copy(update={"change_percent_week": 0.0}), vessel).daily_l * LITRE_M3 / DAY_S
    feed = feed_m3s if pond.remover_lpm is None else min(feed_m3s, m3s_from_lpm(pond.remover_lpm))
    net = feed - lost_m3s
    return Change(
        volume_l=changed_m3 / LITRE_M3,
        out_s=None if pond.change_lpm is None else changed_m3 / LITRE_M3 / pond.change_lpm * MINUTE_S,
        refill_s=changed_m3 / net if net > 0.0 else None,
        between_s=between_s,
    )


def short_meanwhile(analysis: Analysis, pond: Pond) -> list[tuple[OutletBase, float]]:
    """Return the outlets that get less than is wanted while a pond is filled again, with the flow they get [m3/s].

    By themselves they get what is wanted; with all drawing, the pond's among them, they do not.
    """
    outlet, short = pond.outlet, list[tuple[OutletBase, float]]()
    if outlet is None or pond.change is None:
        return short
    system = analysis.system_of(outlet.id)
    for other in analysis.fed_outlets:
        wanted = analysis.wanted_m3s(other)
        if other.id == outlet.id or wanted is None or system is None or not system.serves(other.id):
            continue
        together = analysis.state.outlets[other.id].judged_flow_m3s
        if together < wanted <= analysis.flows_alone_m3s.get(other.id, 0.0):
            short.append((other, together))
    return short


def _top_up(pond: PondLoss, vessel: Vessel) -> TopUp:
    expected = pond_demand(pond, vessel).daily_l
    area_m2 = surface_m2(pond, vessel)
    off = EVAPORATION_ERROR * evaporated_mm(pond) * area_m2
    return TopUp(
        expected_lpd=expected, least_lpd=expected - off, most_lpd=expected + off, measured_lpd=pond.topped_lpd,
        area_m2=area_m2,
    )  # fmt: skip


def remover_lasts_d(pond: Pond) -> float | None:
    """Return how long the chlorine remover lasts [d]: its litres over a day's top-up; None where unknown."""
    daily_l = pond.top_up.measured_lpd if pond.top_up.measured_lpd is not None else pond.top_up.expected_lpd
    if pond.pond.cartridge_l is None or daily_l <= 0.0:
        return None
    return pond.pond.cartridge_l / daily_l


def chlorine_passes(pond: Pond) -> tuple[float, float, Unit] | None:
    """Return what is too much for the chlorine remover, its limit and the unit: a flow, or the water of one change."""
    feed_lpm, loss = lpm_from_m3s(pond.feed_m3s), pond.pond
    if loss.remover_lpm is not None and feed_lpm > loss.remover_lpm:
        return feed_lpm, loss.remover_lpm, "L/min"
    if loss.remover_l is not None and pond.change is not None and pond.change.volume_l > loss.remover_l:
        return pond.change.volume_l, loss.remover_l, "L"
    return None
