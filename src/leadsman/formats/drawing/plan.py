"""The plan of a design: lines numbered and as wide as their bore, vessels, outlets, paddocks, a scale bar, north up."""

import math
from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise
from typing import NamedTuple

from leadsman.core.base.unit_system import TABLES, System
from leadsman.core.design import Design, Line, label
from leadsman.core.design.layout import Layout, along_way
from leadsman.formats.drawing.canvas import Canvas, Ink, Spot

MARGIN = 54.0
LEAST_PX, PX_PER_MM = 1.0, 0.055  # how wide a line is drawn, by its bore
LETTER = 6.2  # about as wide as a letter of 12 px
STEPS = (1.0, 2.0, 5.0)  # round lengths of a scale bar


class _Box(NamedTuple):
    left: float
    top: float
    right: float
    bottom: float

    def meets(self, other: "_Box") -> bool:
        beside = self.right < other.left or other.right < self.left
        return not (beside or self.bottom < other.top or other.bottom < self.top)


class _Ground:
    """Where the plan's metres come to lie on the drawing."""

    def __init__(self, design: Design, layout: Layout, width: float, height: float) -> None:
        spots = [(place.east_m, place.north_m) for place in design.places]
        spots += [spot for line in design.lines for spot in layout.way_of(line)]
        spots += [(corner[0], corner[1]) for paddock in design.paddocks for corner in paddock.corners]
        easts, norths = [spot[0] for spot in spots] or [0.0], [spot[1] for spot in spots] or [0.0]
        across, up = max(max(easts) - min(easts), 1.0), max(max(norths) - min(norths), 1.0)
        self.per_m = min((width - 2.0 * MARGIN) / across, (height - 2.0 * MARGIN) / up)
        self.middle = ((max(easts) + min(easts)) / 2.0, (max(norths) + min(norths)) / 2.0)
        self.centre = (width / 2.0, height / 2.0)

    def at(self, spot: Sequence[float]) -> Spot:
        return (
            self.centre[0] + (spot[0] - self.middle[0]) * self.per_m,
            self.centre[1] - (spot[1] - self.middle[1]) * self.per_m,
        )


def plan_drawing(
    design: Design, width: float, height: float, system: System, inks: Mapping[Ink, str], font: str | None = None
) -> str:
    """Return the plan as SVG; lines carry the numbers, from 1, that they have in the document's order."""
    layout = Layout(design)
    canvas, ground = Canvas(width, height, inks, font), _Ground(design, layout, width, height)
    for paddock in design.paddocks:
        if len(paddock.corners) > 2:
            canvas.area([ground.at(corner) for corner in paddock.corners], "land", "rule", 0.6)
    for line in design.lines:
        canvas.line([ground.at(spot) for spot in layout.way_of(line)], "pipe", _wide_px(design, line))
    taken = _points(canvas, design, layout, ground)
    for number, line in enumerate(design.lines, start=1):
        taken.append(_number(canvas, ground.at(_midway(layout, line)), number))
    _names(canvas, design, layout, ground, taken)
    _scale_bar(canvas, ground.per_m, system)
    _north(canvas)
    return canvas.svg(f"Plan of {design.name}")


def _wide_px(design: Design, line: Line) -> float:
    bore_mm = line.bore_mm or 25.0
    named = line.runs[0].product if line.runs else line.product
    if line.bore_mm is None and named:
        bore_mm = design.pipe(named).bore_m * 1_000.0
    return LEAST_PX + PX_PER_MM * bore_mm


def _points(canvas: Canvas, design: Design, layout: Layout, ground: _Ground) -> list[_Box]:
    """Draw what stands on the plan; return the boxes that it takes."""
    boxes = []
    for vessel in design.vessels:
        x, y = ground.at(_at(layout, vessel.place))
        half = 7.0 if vessel.gives_water else 5.0
        corners = [(x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half)]
        if vessel.role == "pond":
            canvas.circle((x, y), 9.0, "ink", "water")
        else:
            canvas.area(corners, "water" if vessel.gives_water else "sheet", "ink")
        boxes.append(_Box(x - 9.0, y - 9.0, x + 9.0, y + 9.0))
    filled = {outlet.id for outlet in design.outlets if outlet.fills}
    for outlet in design.outlets:
        x, y = ground.at(_at(layout, outlet.place))
        canvas.circle((x, y), 3.0, "ink", "ink" if outlet.id in filled else "sheet")
        boxes.append(_Box(x - 4.0, y - 4.0, x + 4.0, y + 4.0))
    for line in design.lines:
        for x, y in map(ground.at, layout.way_of(line)):
            boxes.append(_Box(x - 2.0, y - 2.0, x + 2.0, y + 2.0))
    return boxes


def _at(layout: Layout, place_id: str) -> Spot:
    place = layout.places[place_id]
    return place.east_m, place.north_m


def _midway(layout: Layout, line: Line) -> Spot:
    return along_way(layout.way_of(line), [0.5])[0]


def _number(canvas: Canvas, at: Spot, number: int) -> _Box:
    canvas.circle(at, 8.5, "ink", "sheet", wide=1.0)
    canvas.text((at[0], at[1] + 4.0), str(number), anchor="middle", size=11, bold=True)
    return _Box(at[0] - 9.0, at[1] - 9.0, at[0] + 9.0, at[1] + 9.0)


def _names(canvas: Canvas, design: Design, layout: Layout, ground: _Ground, taken: list[_Box]) -> None:
    """Write the names of vessels, and of outlets that fill none, where they cover least."""
    named = [(label(vessel), vessel.place) for vessel in design.vessels]
    named += [(label(outlet), outlet.place) for outlet in design.outlets if not outlet.fills]
    legs = [pair for line in design.lines for pair in pairwise(map(ground.at, layout.way_of(line)))]
    for name, place in named:
        at = ground.at(_at(layout, place))
        best = min(_places_for(at, name), key=lambda found: _covers(found[1], taken, legs, canvas))
        taken.append(best[1])
        canvas.text(best[0], name, size=12, halo=True)


def _places_for(at: Spot, name: str) -> Iterator[tuple[Spot, _Box]]:
    wide = len(name) * LETTER
    for left, down in (
        (12.0, 4.0), (-12.0 - wide, 4.0), (-wide / 2.0, -13.0), (-wide / 2.0, 22.0), (10.0, -11.0), (10.0, 20.0),
        (-10.0 - wide, -11.0), (-10.0 - wide, 20.0),
    ):  # fmt: skip
        spot = (at[0] + left, at[1] + down)
        yield spot, _Box(spot[0], spot[1] - 10.0, spot[0] + wide, spot[1] + 3.0)


def _covers(box: _Box, taken: list[_Box], legs: Sequence[tuple[Spot, Spot]], canvas: Canvas) -> float:
    """Return how bad a place for a name is: other names and parts it meets, lines it lies on, edges it leaves."""
    outside = box.left < 2.0 or box.top < 2.0 or box.right > canvas.width - 2.0 or box.bottom > canvas.height - 2.0
    met = sum(box.meets(other) for other in taken)
    return 20.0 * outside + 5.0 * met + sum(_crosses(box, leg) for leg in legs)


def _crosses(box: _Box, leg: tuple[Spot, Spot]) -> bool:
    """Whether a straight leg runs through a box, by points along it as near as a letter."""
    (x0, y0), (x1, y1) = leg
    if min(x0, x1) > box.right or max(x0, x1) < box.left or min(y0, y1) > box.bottom or max(y0, y1) < box.top:
        return False
    steps = max(2, int(math.dist(*leg) / LETTER))
    return any(
        box.left <= x0 + (x1 - x0) * step / steps <= box.right
        and box.top <= y0 + (y1 - y0) * step / steps <= box.bottom
        for step in range(steps + 1)
    )


def _scale_bar(canvas: Canvas, per_m: float, system: System) -> None:
    """Draw a bar of a round length, about a sixth of the drawing wide."""
    shown = TABLES[system]["m"]
    wanted = canvas.width / 6.0 / per_m * shown.factor
    power = 10.0 ** math.floor(math.log10(wanted))
    length = max(step * power for step in STEPS if step * power <= wanted)
    px, (x, y) = length / shown.factor * per_m, (16.0, canvas.height - 16.0)
    canvas.line([(x, y - 5.0), (x, y), (x + px, y), (x + px, y - 5.0)], "ink", 1.5)
    canvas.text((x + px + 6.0, y), f"{length:g} {shown.unit}")


def _north(canvas: Canvas) -> None:
    x, y = canvas.width - 22.0, 40.0
    canvas.area([(x, y - 24.0), (x + 6.0, y), (x, y - 5.0), (x - 6.0, y)], "ink")
    canvas.text((x, y + 13.0), "N", anchor="middle", bold=True)
