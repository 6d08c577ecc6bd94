"""A plan in a frost: its lines, what keeps them open, what stays in them drained, and its vessels' ice."""

from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cached import once_for_each
from leadsman.core.base.units import DAY_S
from leadsman.core.design import Vessel
from leadsman.core.design.frost import Frost
from leadsman.core.winter.bleed import LineBleed, bleeds, run_together
from leadsman.core.winter.drain_down import Held, held_water
from leadsman.core.winter.line_frost import LineFrost, frost_depth, line_frosts, source_c
from leadsman.core.winter.need import WinterNeed, winter_need
from leadsman.core.winter.vessel_ice import VesselIce, vessel_ice

MOST_VESSELS = 300  # of a plan of many, the first


@dataclass(frozen=True, kw_only=True)
class SourceInFrost:
    """A system's source against what is bled: what comes in, what the animals and plants need, what runs off [m3/d].

    `bled_m3` is by the plan where anything is left running there, else the least that keeps its lines open; None where
    nothing does. `comes_m3` is None where the source gives without a limit that is known.
    """

    vessel: Vessel
    comes_m3: float | None
    needed_m3: float
    bled_m3: float | None
    by_plan: bool

    @property
    def spare_m3(self) -> float | None:
        """What comes in a day beyond what is needed [m3]; None where that has no limit that is known."""
        return None if self.comes_m3 is None else max(0.0, self.comes_m3 - self.needed_m3)

    @property
    def is_short(self) -> bool:
        """Whether what is bled is more than can be spared."""
        return self.bled_m3 is not None and self.spare_m3 is not None and self.bled_m3 > self.spare_m3


@dataclass(frozen=True, kw_only=True)
class Winter:
    """What a frost does to a plan; `depth_m` is how deep it goes into the ground.

    `bled_at_once` tells whether the lines give all the least flows that keep them open at once.
    """

    frost: Frost
    depth_m: float
    source_c: float
    lines: list[LineFrost]
    bleeds: list[LineBleed]
    bled_at_once: bool
    sources: list[SourceInFrost]
    held: list[Held]
    vessels: list[VesselIce]
    need: WinterNeed

    @property
    def freezing(self) -> list[LineFrost]:
        """The lines whose standing water freezes, the first to freeze first."""
        return sorted((one for one in self.lines if one.freezes), key=lambda one: one.cold_s)

    def held_in(self, line_id: str) -> list[Held]:
        """Return the water that stays in a line when it is drained."""
        return [one for one in self.held if one.line.id == line_id]


@once_for_each
def winter(analysis: Analysis) -> Winter | None:
    """Return what the frost of a plan does to it, worked out once; None where it has none."""
    frost = analysis.document.frost
    return None if frost is None else _winter(analysis, frost)


def _winter(analysis: Analysis, frost: Frost) -> Winter:
    lines = line_frosts(analysis, frost)
    bled = bleeds(analysis, frost, lines)
    freezing = [one.line.id for one in lines if one.freezes]
    need = winter_need(analysis, frost)
    return Winter(
        frost=frost,
        depth_m=frost_depth(frost),
        source_c=source_c(analysis, frost),
        lines=lines,
        bleeds=bled,
        bled_at_once=run_together(analysis, {one.outlet.id: one.least_m3s or 0.0 for one in bled}),
        sources=_sources(analysis, bled, need),
        held=held_water(analysis, freezing),
        vessels=_vessels(analysis, frost, need),
        need=need,
    )


def _sources(analysis: Analysis, bled: list[LineBleed], need: WinterNeed) -> list[SourceInFrost]:
    found = []
    for system in analysis.systems:
        own = [one for one in bled if system.serves(one.outlet.id)]
        asked = sum(one.asked_m3s for one in own)
        least = [one.least_m3s for one in own]
        bled_m3 = asked if asked > 0.0 else None if None in least else sum(flow or 0.0 for flow in least)
        needed = need.of_system_m3(system)
        unlimited = any(store.id in analysis.model.layout.sources for store in system.stores)
        comes = sum(analysis.brings_m3.get(inflow.id, 0.0) for inflow in system.inflows)
        found.append(
            SourceInFrost(
                vessel=system.stores[0], comes_m3=None if unlimited else comes, needed_m3=needed,
                bled_m3=None if bled_m3 is None else bled_m3 * DAY_S, by_plan=asked > 0.0,
            )
        )  # fmt: skip
    return found


def _vessels(analysis: Analysis, frost: Frost, need: WinterNeed) -> list[VesselIce]:
    """Return the ice of the vessels, each with what is drawn of it in a day."""
    warm_c = source_c(analysis, frost)
    found = []
    for vessel in analysis.document.vessels[:MOST_VESSELS]:
        system = analysis.system_of(vessel.id)
        is_store = system is not None and vessel in system.stores
        if is_store and system is not None:
            drawn = need.of_system_m3(system) / len(system.stores)
            refilled = bool(system.inflows)
        else:
            filling = {outlet.id for outlet in analysis.document.outlets if outlet.fills == vessel.id}
            drawn, refilled = need.of_trough_m3(vessel, filling), bool(filling) and not frost.drained
        found.append(vessel_ice(frost, vessel, drawn, refilled, warm_c, analysis.document.site.latitude_deg))
    return found
