"""What a frost does to the water of each line: how fast it loses heat, and when it freezes while it stands."""

import math
from dataclasses import dataclass

from leadsman.core.analysis.running import Running
from leadsman.core.base.units import DAY_S, m_from_mm
from leadsman.core.design import Line, label
from leadsman.core.design.frost import Frost
from leadsman.core.design.layout import line_profile
from leadsman.core.physics.frost_depth import SOILS, degree_days_to, frost_depth_m
from leadsman.core.physics.pipe_heat import Wall, freezing_s, loss_in_air_wmk, loss_in_ground_wmk, standing_s
from leadsman.core.winter.drain_down import held_water

PLASTIC_WMK = 0.4  # polyethylene; other plastics conduct less: handbook value, from memory
USUAL_SDR = 13.6  # where a bore is all that is known of a pipe: width over wall
LEAST_RISER_M = 0.05  # what stands up less is no riser


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """A stretch of a line that lies alike: its length [m], its wall, what a metre loses [W/mK]; whether it is deep."""

    length_m: float
    wall: Wall
    loss_wmk: float
    is_deep: bool


@dataclass(frozen=True, kw_only=True)
class LineFrost:
    """A line in a frost.

    `reached_s` is when frost has come down to it, 0 for what lies in the air [s after the frost begins]; `cold_s` when
    its standing water is at 0 °C, `frozen_s` when it is ice through and through, both of the part that freezes first;
    infinite where that does not happen in this frost. `riser` is the outlet whose riser that part is.
    """

    line: Line
    stretches: list[Stretch]
    reached_s: float
    cold_s: float
    frozen_s: float
    riser: str | None

    @property
    def loss_wk(self) -> float:
        """What all of it loses for each degree between its water and the air [W/K]."""
        return sum(one.length_m * one.loss_wmk for one in self.stretches if not one.is_deep)

    @property
    def freezes(self) -> bool:
        return math.isfinite(self.cold_s)


def frost_depth(frost: Frost) -> float:
    """Return how deep frost goes where a plan lies [m]: as people there know it, else by soil and degree-days."""
    return frost_depth_m(frost.degree_days, SOILS[frost.soil]) if frost.depth_m is None else frost.depth_m


def source_c(running: Running, frost: Frost) -> float:
    """Return how warm the water is that comes into the lines in a frost [°C]."""
    return running.document.site.water_c if frost.water_c is None else frost.water_c


def line_frosts(running: Running, frost: Frost) -> list[LineFrost]:
    """Return what a frost does to each line, in the order of the document.

    A line that runs empty when not in use does not freeze, if the way out of it falls all along.
    """
    empties = [line.id for line in running.document.lines if line.empties]
    held = {one.line.id for one in held_water(running, empties)} if empties else set()
    return [
        LineFrost(line=line, stretches=[], reached_s=0.0, cold_s=math.inf, frozen_s=math.inf, riser=None)
        if line.empties and line.id not in held
        else _line_frost(running, frost, line)
        for line in running.document.lines
    ]


def _line_frost(running: Running, frost: Frost, line: Line) -> LineFrost:
    depth_m, warm_c = frost_depth(frost), source_c(running, frost)
    walls = _walls(running, line)
    buried = line.cover_m > walls[0][1].outside_m / 2.0
    is_deep = buried and line.cover_m >= depth_m
    stretches = []
    for length_m, wall in walls:
        loss = (
            loss_in_ground_wmk(wall, max(line.cover_m, wall.outside_m / 2.0), SOILS[frost.soil].conducts_wmk)
            if buried
            else loss_in_air_wmk(wall, frost.wind_mps, frost.air_c)
        )
        stretches.append(Stretch(length_m=length_m, wall=wall, loss_wmk=loss, is_deep=is_deep))
    lasts_s = frost.days * DAY_S
    reached_s = _reached_s(frost, line.cover_m, depth_m) if buried else 0.0
    cold: list[tuple[float, Stretch, str | None]] = [
        (reached_s + (0.0 if buried else standing_s(one.wall, one.loss_wmk, warm_c, frost.air_c)), one, None)
        for one in stretches
        if not one.is_deep
    ]
    for riser, length_m in _risers(running, line) if buried else ():
        wall = walls[-1][1]
        own = Stretch(
            length_m=length_m, wall=wall, loss_wmk=loss_in_air_wmk(wall, frost.wind_mps, frost.air_c), is_deep=False
        )
        stretches.append(own)
        cold.append((standing_s(wall, own.loss_wmk, warm_c, frost.air_c), own, riser))
    first = min(cold, key=lambda one: one[0], default=None)
    if first is None or first[0] >= lasts_s:
        return LineFrost(
            line=line, stretches=stretches, reached_s=reached_s, cold_s=math.inf, frozen_s=math.inf, riser=None
        )
    cold_s, where, at_riser = first
    frozen_s = cold_s + freezing_s(where.wall, where.loss_wmk, frost.air_c)
    return LineFrost(
        line=line, stretches=stretches, reached_s=reached_s, cold_s=cold_s, riser=at_riser,
        frozen_s=frozen_s if frozen_s < lasts_s else math.inf,
    )  # fmt: skip


def _reached_s(frost: Frost, cover_m: float, depth_m: float) -> float:
    """Return when frost has come down to a cover [s]; it goes as the root of time to its depth at the frost's end."""
    if cover_m >= depth_m:
        return math.inf
    if frost.depth_m is None:
        return degree_days_to(cover_m, SOILS[frost.soil]) / -frost.air_c * DAY_S
    return frost.days * DAY_S * (cover_m / depth_m) ** 2


def _risers(running: Running, line: Line) -> list[tuple[str, float]]:
    """Return the outlets at which a buried line comes out of the ground, and how high it stands there [m]."""
    layout, found = running.model.layout, []
    profile = line_profile(layout, line)
    for end, (_, ground_m, pipe_m) in ((line.from_, profile[0]), (line.to, profile[-1])):
        outlet = layout.outlets.get(end)
        if outlet is not None and pipe_m - ground_m > LEAST_RISER_M:
            found.append((label(outlet), pipe_m - ground_m))
    return found


def _walls(running: Running, line: Line) -> list[tuple[float, Wall]]:
    """Return the pieces of pipe of a line: length [m] and wall."""
    pieces = running.model.reaches_of_line(line.id)
    named: list[str | None] = [run.product for run in line.runs] or [line.product] * len(pieces)
    found = []
    for piece, product in zip(pieces, named, strict=False):
        outer_m = piece.bore_m / (1.0 - 2.0 / USUAL_SDR)
        if product is not None:
            outer_m = max(running.document.pipe(product).outer_m, 1.01 * piece.bore_m)
        wall = Wall(bore_m=piece.bore_m, outer_m=outer_m, wall_wmk=PLASTIC_WMK, foam_m=m_from_mm(line.lagging_mm))
        found.append((piece.length_m, wall))
    return found
