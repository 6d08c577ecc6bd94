"""What is asked of the water: which outlets are open and how far, what is drawn, and where vessels stand."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from leadsman.core.base.errors import UnknownName, require_between
from leadsman.core.design import Design, FloatValveOutlet, OutletBase, Scenario
from leadsman.core.design.outlet_law import FULLY_OPEN, float_valve
from leadsman.core.farm.grazing import resting_outlets

ORDINARY_DAY = Scenario(id="ordinary-day", name="Ordinary day", air_c=20.0)


@dataclass(frozen=True)
class Case:
    """One state that is asked for.

    `openings`: opening x of each outlet [-], 0 where it is shut; `draws_m3s`: outlets that take exactly a flow
    [m3/s] whatever their head; `levels_m`: level of each vessel [m above its floor].
    """

    openings: Mapping[str, float]
    levels_m: Mapping[str, float]
    draws_m3s: Mapping[str, float] = field(default_factory=dict)
    shut_lines: frozenset[str] = frozenset()
    place_draws: bool = True

    def with_shut(self, outlet_id: str) -> "Case":
        """Return the same case with one outlet shut."""
        return replace(self, openings={**self.openings, outlet_id: 0.0})

    def with_only(self, outlet_id: str) -> "Case":
        """Return the same case with one outlet fully open and nothing else drawing."""
        return self.with_openings({outlet_id: FULLY_OPEN})

    def with_openings(self, openings: Mapping[str, float]) -> "Case":
        """Return the same case with some outlets open so far, and nothing else drawing."""
        return replace(
            self, openings=dict.fromkeys(self.openings, 0.0) | dict(openings), draws_m3s={}, place_draws=False
        )

    def with_nothing_drawing(self) -> "Case":
        """Return the same case with every outlet shut and no draw anywhere."""
        return replace(self, openings=dict.fromkeys(self.openings, 0.0), draws_m3s={}, place_draws=False)


def case_of(design: Design, *, all_open: bool = False, scenario: Scenario | None = None) -> Case:
    """Return the case that the document describes, every float valve open where asked, under a scenario.

    On the scenario's day the outlets at which the calendar has no herd are shut, unless the scenario opens them.

    Raises:
        OutOfRange: the scenario sets a level above what the vessel holds.
    """
    levels = {vessel.id: vessel.level_m for vessel in design.vessels}
    opened, closed = (set(scenario.open), set(scenario.shut)) if scenario else (set(), set())
    if scenario:
        brims = {vessel.id: vessel.brim_m for vessel in design.vessels}
        for vessel_id, level_m in scenario.levels_m.items():
            path = f"/scenarios/{design.scenarios.index(scenario)}/levels_m/{vessel_id}"
            require_between(f"level of {vessel_id} [m]", level_m, 0.0, brims[vessel_id], path)
            levels[vessel_id] = level_m

    resting = resting_outlets(design, scenario.date if scenario else None) - opened

    def opening(outlet: OutletBase) -> float:
        if outlet.id in closed or outlet.id in resting or (outlet.shut and outlet.id not in opened):
            return 0.0
        if all_open or outlet.id in opened or outlet.fills is None or not isinstance(outlet, FloatValveOutlet):
            return FULLY_OPEN
        return float_valve(outlet).opening(levels[outlet.fills])

    shut = {line.id for line in design.lines if line.shut and line.id not in opened}
    shut |= {line.id for line in design.lines if line.id in closed}
    return Case({outlet.id: opening(outlet) for outlet in design.outlets}, levels, shut_lines=frozenset(shut))


def shown_scenario(design: Design) -> Scenario:
    """Return the case that a design shows: the one chosen, else its first, else an ordinary day."""
    chosen = [case for case in design.scenarios if case.id == design.shown_for] or design.scenarios[:1]
    return chosen[0] if chosen else ORDINARY_DAY


def scenario_named(design: Design, name: str) -> Scenario:
    """Return the scenario of that id or name.

    Raises:
        UnknownName: the document has none.
    """
    for scenario in design.scenarios:
        if name in (scenario.id, scenario.name):
            return scenario
    raise UnknownName("scenario", name, [scenario.id for scenario in design.scenarios], "/scenarios")
