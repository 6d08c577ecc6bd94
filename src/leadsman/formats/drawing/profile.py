"""The profile along a route: ground, pipe, pressure line running and level shut, with high and low points."""

import math
from collections.abc import Mapping, Sequence

from leadsman.core.base.unit_system import TABLES, System
from leadsman.core.report.route import GradeReport, SectionPointReport
from leadsman.formats.drawing.canvas import Canvas, Ink, Spot

LEFT, RIGHT, TOP, BOTTOM = 52.0, 16.0, 12.0, 34.0
STEPS = (1.0, 2.0, 5.0, 10.0)
TICKS = 6.0  # at most about so many
SHUT_DASH, RANGE_OPACITY = "6 4", 0.35


def profile_drawing(
    section: Sequence[SectionPointReport],
    grade: Sequence[GradeReport],
    size: Spot,
    system: System,
    inks: Mapping[Ink, str],
    title: str,
    font: str | None = None,
) -> str:
    """Return the profile as SVG, heights and distances in the reader's units."""
    canvas = Canvas(size[0], size[1], inks, font)
    scale = _Scale(section, grade, size)
    bottom = scale.bottom
    ground = [scale.at(point.at_m, point.ground_m) for point in section]
    canvas.area([(ground[0][0], bottom), *ground, (ground[-1][0], bottom)], "land")
    canvas.line(ground, "ground", 1.2)
    _axes(canvas, scale, system)
    band = [(point, found) for point, found in zip(section, grade, strict=True) if found.low_m is not None]
    if len(band) > 1:
        high = [scale.at(point.at_m, found.high_m or 0.0) for point, found in band]
        low = [scale.at(point.at_m, found.low_m or 0.0) for point, found in band]
        canvas.area([*high, *reversed(low)], "water", opacity=RANGE_OPACITY)
    shut = [scale.at(point.at_m, point.shut_head_m) for point in section if point.shut_head_m is not None]
    running = [
        scale.at(point.at_m, found.head_m)
        for point, found in zip(section, grade, strict=True)
        if found.head_m is not None
    ]
    if len(shut) > 1:
        canvas.line(shut, "deep", 1.2, SHUT_DASH)
    if len(running) > 1:
        canvas.line(running, "deep", 2.0)
    canvas.line([scale.at(point.at_m, point.pipe_m) for point in section], "pipe", 2.6)
    for point in section:
        if point.mark:
            _mark(canvas, scale.at(point.at_m, point.pipe_m), point.mark)
    return canvas.svg(title)


class _Scale:
    def __init__(self, section: Sequence[SectionPointReport], grade: Sequence[GradeReport], size: Spot) -> None:
        heights = [height for point in section for height in (point.ground_m, point.pipe_m, point.shut_head_m)]
        heights += [found.head_m for found in grade]
        known = [height for height in heights if height is not None]
        spare = max(0.5, 0.06 * (max(known) - min(known)))
        self.low_m, self.high_m = min(known) - spare, max(known) + spare
        self.long_m = max(section[-1].at_m, 1.0)
        self.bottom, self.right = size[1] - BOTTOM, size[0] - RIGHT
        self.per_m = ((self.right - LEFT) / self.long_m, (self.bottom - TOP) / (self.high_m - self.low_m))

    def at(self, at_m: float, height_m: float) -> Spot:
        held = min(max(height_m, self.low_m), self.high_m)
        return LEFT + at_m * self.per_m[0], self.bottom - (held - self.low_m) * self.per_m[1]


def _axes(canvas: Canvas, scale: _Scale, system: System) -> None:
    shown = TABLES[system]["m"]
    for height in _ticks(scale.low_m * shown.factor, scale.high_m * shown.factor):
        y = scale.at(0.0, height / shown.factor)[1]
        canvas.line([(LEFT, y), (scale.right, y)], "rule", 0.5)
        canvas.text((LEFT - 6.0, y + 4.0), f"{height:g}", "faint", "end", 11.0)
    for along in _ticks(0.0, scale.long_m * shown.factor):
        x = scale.at(along / shown.factor, scale.low_m)[0]
        canvas.line([(x, scale.bottom), (x, scale.bottom + 4.0)], "faint")
        canvas.text((x, scale.bottom + 16.0), f"{along:g}", "faint", "middle", 11.0)
    canvas.line([(LEFT, TOP), (LEFT, scale.bottom), (scale.right, scale.bottom)], "faint")
    canvas.text((scale.right, scale.bottom + 29.0), f"{shown.unit} along the pipe", "faint", "end", 11.0)
    canvas.text((LEFT, scale.bottom + 29.0), f"heights in {shown.unit}", "faint", "start", 11.0)


def _ticks(low: float, high: float) -> list[float]:
    """Return round figures between two.

    >>> _ticks(0.0, 118.0)
    [0.0, 20.0, 40.0, 60.0, 80.0, 100.0]
    """
    power = 10.0 ** math.floor(math.log10(max((high - low) / TICKS, 1e-9)))
    step = next(one * power for one in STEPS if one * power * TICKS >= high - low)
    first = math.ceil(low / step - 1e-9)
    return [round(number * step, 9) for number in range(first, math.floor(high / step + 1e-9) + 1)]


def _mark(canvas: Canvas, at: Spot, mark: str) -> None:
    """Mark a high point by a triangle on top, a low one by a triangle below."""
    way = -1.0 if mark == "high" else 1.0
    canvas.area(
        [(at[0], at[1] + way * 5.0), (at[0] - 5.0, at[1] + way * 13.0), (at[0] + 5.0, at[1] + way * 13.0)], "short"
    )
