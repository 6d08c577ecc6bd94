"""Rows of linked containers at one level, fed through a control pot: what they hold, need and get over the season."""

from dataclasses import dataclass

from leadsman.core.base.units import DAY_S, LITRE_M3
from leadsman.core.design import Design, FloatValveOutlet, Vessel
from leadsman.core.design.layout import Layout
from leadsman.core.design.store import shape_of
from leadsman.core.farm.growing import OtherDemand


@dataclass(frozen=True, kw_only=True)
class LevelSet:
    """The float's level from a day on (None: as the document has it): what the row holds then, and the change [m3]."""

    since: str | None
    closes_at_m: float
    holds_m3: float
    change_m3: float


@dataclass(frozen=True, kw_only=True)
class ContainerRow:
    """Containers that share the level of one float: how many, what they hold on the day, need [m3/d] and get [m3/s]."""

    outlet: FloatValveOutlet
    vessels: tuple[Vessel, ...]
    containers: int
    holds_m3: float
    demand_m3_per_day: float
    inflow_m3s: float
    levels: tuple[LevelSet, ...]

    @property
    def days_held(self) -> float | None:
        """Days that what they hold lasts with no inflow; None where nothing is needed."""
        return self.holds_m3 / self.demand_m3_per_day if self.demand_m3_per_day > 0.0 else None

    @property
    def gets_m3_per_day(self) -> float:
        """What the feed brings in a day at most, drawing alone."""
        return self.inflow_m3s * DAY_S


def container_rows(
    document: Design, on_day: Design, needs: list[OtherDemand], inflows_m3s: dict[str, float]
) -> list[ContainerRow]:
    """Return every row: the bucket rows that a float fills, straight or through a pot joined to them by lines.

    Args:
        document: as it is written; `on_day` with every float set as on the day shown.
        inflows_m3s: what each float passes drawing alone [m3/s].
    """
    layout = Layout(document)
    set_now = {outlet.id: outlet for outlet in on_day.outlets}
    rows = []
    for outlet in document.outlets:
        filled = layout.vessels.get(outlet.fills or "")
        if filled is None or not isinstance(outlet, FloatValveOutlet):
            continue
        vessels = sharing_a_level(document, filled, layout)
        if not any(vessel.role == "bucket_row" for vessel in vessels):
            continue
        now = set_now[outlet.id]
        assert isinstance(now, FloatValveOutlet)
        needed_l = sum(demand.daily_l for demand in needs if demand.kind == "crop" and demand.where == outlet.id)
        rows.append(
            ContainerRow(
                outlet=now,
                vessels=vessels,
                containers=sum(vessel.count for vessel in vessels if vessel.role == "bucket_row"),
                holds_m3=_holds_m3(layout, filled, vessels, now.valve.closes_at_m),
                demand_m3_per_day=needed_l * LITRE_M3,
                inflow_m3s=inflows_m3s.get(outlet.id, 0.0),
                levels=_levels(layout, outlet, filled, vessels),
            )
        )
    return rows


def sharing_a_level(document: Design, filled: Vessel, layout: Layout) -> tuple[Vessel, ...]:
    """Return the filled vessel and the bucket rows that open lines join to it, over junctions but through no outlet."""
    reached, waiting = {filled.id}, [filled.id]
    while waiting:
        here = waiting.pop()
        for line in document.lines:
            if line.shut or here not in (line.from_, line.to):
                continue
            there = line.to if line.from_ == here else line.from_
            vessel = layout.vessels.get(there)
            passes = there in layout.places or (vessel is not None and vessel.role == "bucket_row")
            if passes and there not in reached:
                reached.add(there)
                waiting.append(there)
    return (filled, *(vessel for vessel in document.vessels if vessel.id in reached and vessel is not filled))


def _holds_m3(layout: Layout, filled: Vessel, vessels: tuple[Vessel, ...], closes_at_m: float) -> float:
    surface_m = layout.floor_m(filled) + closes_at_m
    return sum(
        shape_of(vessel).volume_m3(min(max(surface_m - layout.floor_m(vessel), 0.0), vessel.brim_m))
        for vessel in vessels
    )


def _levels(
    layout: Layout, outlet: FloatValveOutlet, filled: Vessel, vessels: tuple[Vessel, ...]
) -> tuple[LevelSet, ...]:
    first = _holds_m3(layout, filled, vessels, outlet.valve.closes_at_m)
    found = [LevelSet(since=None, closes_at_m=outlet.valve.closes_at_m, holds_m3=first, change_m3=0.0)]
    for step in outlet.valve.steps:
        holds = _holds_m3(layout, filled, vessels, step.closes_at_m)
        found.append(
            LevelSet(
                since=step.from_, closes_at_m=step.closes_at_m, holds_m3=holds, change_m3=holds - found[-1].holds_m3
            )
        )
    return tuple(found)
