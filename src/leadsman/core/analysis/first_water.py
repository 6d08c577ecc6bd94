"""The first water through an empty line: what height of source it takes, and which vents would cure an air lock."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from itertools import combinations

from leadsman.core.analysis.profile import Extreme, PipeProfile
from leadsman.core.analysis.running import Running
from leadsman.core.base.cached import cached_property
from leadsman.core.base.units import head_m_from_pa
from leadsman.core.design import OutletBase, Vessel, label
from leadsman.core.physics.air_lock import LineFilling, filling
from leadsman.core.physics.water import atmospheric_pressure_pa
from leadsman.core.steady.network_model import NetworkModel

STAYS_UNDER_PRESSURE_M = 0.05  # of the running grade over a pipe at a vent, or it would let air in; ours, no source
MOST_VENTS, MOST_CHOSEN = 3, 12  # vents that are tried together, and the high points with most air among which
MOST_POCKETS = 100  # of more high points three vents cure nothing: it is to be laid evenly


@dataclass(frozen=True, eq=False, kw_only=True)
class FirstWater:
    """An outlet's line filled from empty: its profile, and the height [m] of the water that feeds it."""

    model: NetworkModel
    outlet: OutletBase
    vessel: Vessel
    profile: PipeProfile
    surface_m: float
    running_over_pipe_m: dict[int, float]

    @cached_property
    def filling(self) -> LineFilling:
        """What it takes, with the vents that are there."""
        return self.filled(self.profile.vented())

    @property
    def margin_m(self) -> float:
        """How far the source stands over what it takes [m]; negative where air blocks it."""
        return self.surface_m - self.filling.needed_m

    @property
    def stands_over_all(self) -> bool:
        """Whether the source stands over every high point and the end: else it is not air that keeps the water back."""
        return self.surface_m > max(turn.pipe_m for turn in self.profile.extremes)

    def filled(self, vented: Collection[int], raised_m: Sequence[float] = ()) -> LineFilling:
        """Return what it takes with some vents, and with high points, low points and end raised by so much [m]."""
        turns = self.profile.extremes
        heights = [turn.pipe_m for turn in turns]
        for i, raise_m in enumerate(raised_m):
            heights[i] += raise_m
        for i in range(1, len(heights) - 1, 2):  # an error never turns a low point into a high point
            heights[i] = min(heights[i], heights[i - 1], heights[i + 1])
        atmosphere = atmospheric_pressure_pa(self.model.layout.design.site.altitude_m)
        return filling(heights, head_m_from_pa(atmosphere, self.model.water.density_kgm3), vented, self._legs)

    @cached_property
    def _legs(self) -> list[list[tuple[float, float]]]:
        turns = self.profile.extremes
        return [self.profile.pieces(turns[i].at_m, turns[i + 1].at_m) for i in range(0, len(turns) - 2, 2)]

    @cached_property
    def causes(self) -> list[tuple[float, str]]:
        """By how much each uncertain height may lower the margin [m], most first, and what it is the height of."""
        turns, vented = self.profile.extremes, self.profile.vented()
        raised: dict[str, list[float]] = {}
        for i, turn in enumerate(turns):
            name, error_m = height_error(self.model, turn.number)
            if error_m > 0.0:
                raised.setdefault(name, [0.0] * len(turns))[i] = error_m if turn.is_high else -error_m
        found = {
            name: max(0.0, self.filled(vented, by_m).needed_m - self.filling.needed_m) for name, by_m in raised.items()
        }
        source = self.model.layout.places[self.vessel.place]
        found[label(source)] = found.get(label(source), 0.0) + (source.height_error_m or 0.0)
        return sorted(((effect, name) for name, effect in found.items() if effect > 0.0), reverse=True)

    @cached_property
    def cures(self) -> list[list[Extreme]]:
        """The fewest vents that would let the water through, in every choice of them, cheapest first to reach.

        Only at high points where the running grade stays above the pipe: elsewhere a vent would let air in.
        """
        there = self.profile.vented()
        air = {pocket.high_point: pocket.squeezed_m for pocket in self.filling.pockets}
        if len(air) > MOST_POCKETS:
            return []
        open_to_one = [
            i
            for i, high_point in enumerate(self.profile.high_points)
            if i not in there and self.running_over_pipe_m[high_point.number] > STAYS_UNDER_PRESSURE_M
        ]
        free = sorted(sorted(open_to_one, key=lambda i: -air.get(i, 0.0))[:MOST_CHOSEN])
        for count in range(1, min(MOST_VENTS, len(free)) + 1):
            chosen = [
                more for more in combinations(free, count) if self.filled(there | set(more)).needed_m < self.surface_m
            ]
            if chosen:
                return [[self.profile.high_points[i] for i in more] for more in chosen]
        return []


def height_error(model: NetworkModel, number: int) -> tuple[str, float]:
    """Return the name of the place or line whose height a surveyed point has, and how good it is [m]."""
    along, layout = model.along, model.layout
    point = along.points[number]
    line, numbers = layout.lines[point.line_id], along.of_line[point.line_id]
    at_end = number in (numbers[0], numbers[-1])
    of = layout.place_of_end(line.from_ if number == numbers[0] else line.to) if at_end else line
    return label(of), float(along.errors_m[number])


def first_water(running: Running, outlet: OutletBase) -> FirstWater | None:
    """Return the filling of an outlet's line; None where none leads to it, or it has no high point.

    Nor is there one where a pump pushes, or a siphon on the way is primed by hand.
    """
    route = running.routes[outlet.id]
    if route is None or any(leg.line.pump or leg.line.siphon for leg in route.legs):
        return None
    profile = PipeProfile(running.model, route)
    if not profile.extremes:
        return None
    flow, vessel = running.state.solved.used, route.vessel
    level_m = running.standing.levels_m[vessel.id]
    surface_m = running.model.layout.floor_m(vessel) + level_m
    over = (
        {high_point.number: float(flow.over_pipe_m[high_point.number]) for high_point in profile.high_points}
        if flow.converged
        else {}
    )
    known = {high_point.number: over.get(high_point.number, 0.0) for high_point in profile.high_points}
    return FirstWater(
        model=running.model,
        outlet=outlet,
        vessel=vessel,
        profile=profile,
        surface_m=surface_m,
        running_over_pipe_m=known,
    )
