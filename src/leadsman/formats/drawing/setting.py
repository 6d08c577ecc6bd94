"""The section of a vessel with its floats set out: hole, levels, travel, and what else is in it."""

import math
from collections.abc import Mapping, Sequence
from itertools import pairwise

from leadsman.core.base.unit_system import System
from leadsman.core.report.setting import SetFloatReport, SettingReport
from leadsman.formats.drawing.canvas import Canvas, Ink, Spot, length_text, spread

WIDTH, HEIGHT = 600.0, 330.0
LEFT, RIGHT, TOP, BOTTOM = 116.0, 200.0, 24.0, 44.0
LINE = 15.0  # from one row of words to the next
BREAK_MARGIN_M = 0.1  # beyond the float and what is in the vessel, before a long one is broken off
WALL_DASH = "5 4"
LINK_UP = 0.06  # share of the height at which a link low down is drawn
INK_OF: dict[str, Ink] = {
    "rim": "faint", "overflow": "short", "cable": "short", "closes": "deep", "opens": "deep", "needs": "ink",
    "outlet": "faint", "tap": "faint",
}  # fmt: skip


class _Scale:
    """Where metres of a section come to lie on the drawing; a long vessel is broken off behind its float."""

    def __init__(self, setting: SettingReport) -> None:
        across = [spot[0] for spot in setting.outline]
        self.top_m = max(spot[1] for spot in setting.outline)
        over_m = max([self.top_m, *(up for one in setting.floats for up in _heights(one))])
        self.low_m, full_m = min(across), max(across)
        radius = max([(one.float_mm or 0.0) / 2_000.0 for one in setting.floats], default=0.0)
        needed = [spot[0] + radius for one in setting.floats for spot in one.travel]
        needed += [min(thing.high[0], full_m) for thing in setting.things]
        wanted = max([self.low_m + 1.6 * self.top_m, *(reach + BREAK_MARGIN_M for reach in needed)])
        self.is_broken = wanted < full_m - 0.05
        self.high_m = wanted if self.is_broken else full_m
        room = (WIDTH - LEFT - RIGHT, HEIGHT - TOP - BOTTOM)
        self.per_m = min(room[0] / (self.high_m - self.low_m), room[1] / over_m)
        self.over_m = over_m

    def at(self, spot: Spot) -> Spot:
        return LEFT + (min(spot[0], self.high_m) - self.low_m) * self.per_m, self.up(spot[1])

    def up(self, height_m: float) -> float:
        return TOP + (self.over_m - height_m) * self.per_m


def _heights(one: SetFloatReport) -> Sequence[float]:
    told = [one.hole_m, one.pin[1] if one.pin else None]
    return [height for height in told if height is not None]


def setting_drawing(setting: SettingReport, name: str, system: System, inks: Mapping[Ink, str], font: str = "") -> str:
    """Return the section of a vessel with its floats as SVG, heights over the floor in the reader's units."""
    scale = _Scale(setting)
    foot = scale.up(0.0)
    canvas = Canvas(WIDTH, foot + BOTTOM, inks, font or None)
    _water(canvas, setting, scale)
    for thing in setting.things:
        low, high = scale.at(thing.low), scale.at(thing.high)
        canvas.area([low, (high[0], low[1]), high, (low[0], high[1])], "pipe", "ink", 0.45)
        canvas.text(
            ((low[0] + high[0]) / 2.0, min(low[1], high[1]) - 4.0), thing.name, anchor="middle", size=11, halo=True
        )
    _walls(canvas, setting, scale)
    for one in setting.floats:
        _float(canvas, one, scale)
    _links(canvas, setting, scale)
    _holes(canvas, setting, scale, system)
    _levels(canvas, setting, scale, system)
    _foot(canvas, setting, scale, system)
    return canvas.svg(f"Section of {name} with its float set out")


def _water(canvas: Canvas, setting: SettingReport, scale: _Scale) -> None:
    """Fill the section up to the highest closing level."""
    level = min(max((one.closes_at_m for one in setting.floats), default=0.0), scale.top_m)
    near, far = _sides(setting.outline)
    wet = [*_up_to(near, level)[::-1], *_up_to(far, level)]
    canvas.area([scale.at(spot) for spot in wet], "water", opacity=0.55)


def _sides(outline: Sequence[Spot]) -> tuple[list[Spot], list[Spot]]:
    """Return both walls of a section from the floor up."""
    floor = min(spot[1] for spot in outline)
    lowest = [number for number, spot in enumerate(outline) if spot[1] <= floor + 1e-9]
    return list(reversed(outline[: lowest[0] + 1])), list(outline[lowest[-1] :])


def _up_to(wall: Sequence[Spot], level: float) -> list[Spot]:
    found = [wall[0]]
    for (x0, z0), (x1, z1) in pairwise(wall):
        if z1 <= level:
            found.append((x1, z1))
        elif z1 > z0:
            share = (level - z0) / (z1 - z0)
            return [*found, (x0 + share * (x1 - x0), level)]
        else:
            found.append((x1, z1))
    return found


def _walls(canvas: Canvas, setting: SettingReport, scale: _Scale) -> None:
    dash = None if setting.shape_known else WALL_DASH
    near, far = _sides(setting.outline)
    if not scale.is_broken:
        canvas.line([scale.at(spot) for spot in setting.outline], wide=3.0, dash=dash)
        return
    floor = [near[0], (scale.high_m, near[0][1])]
    canvas.line([scale.at(spot) for spot in [*near[::-1], *floor]], wide=3.0, dash=dash)
    across, (top, bottom) = scale.at((scale.high_m, 0.0))[0], (scale.up(far[-1][1]), scale.up(0.0))
    step = (bottom - top) / 6.0
    teeth = [(across + (0, 5, -5, 5, -5, 5, 0)[number], top + number * step) for number in range(7)]
    canvas.line(teeth, "faint", 1.0)


def _float(canvas: Canvas, one: SetFloatReport, scale: _Scale) -> None:
    radius = (one.float_mm or 0.0) / 2_000.0 * scale.per_m
    if one.pin and one.shut and one.open:
        pin, shut, wide_open = (scale.at(spot) for spot in (one.pin, one.shut, one.open))
        canvas.line([scale.at(spot) for spot in one.travel], "short", 1.2, "3 3")
        canvas.circle(wide_open, radius, "faint", dash="4 3", wide=1.0)
        canvas.line([pin, shut], "pipe", 4.0)
        canvas.circle(shut, radius, "ink", "sheet")
        canvas.circle(pin, 3.0, "ink", "ink")


def _links(canvas: Canvas, setting: SettingReport, scale: _Scale) -> None:
    """Draw where links lead on to the next of several alike: low down, and at the overflow."""
    if setting.count < 2:
        return
    right = scale.at((scale.high_m, 0.0))[0]
    overflow = [level.at_m for level in setting.levels if level.kind == "overflow"]
    for height in [LINK_UP * scale.top_m, *overflow]:
        up = scale.up(height)
        canvas.line([(right - 12.0, up - 4.0), (right + 14.0, up - 4.0)], "ink", 1.5)
        canvas.line([(right - 12.0, up + 4.0), (right + 14.0, up + 4.0)], "ink", 1.5)
    canvas.text(
        (right - 16.0, scale.up(LINK_UP * scale.top_m) + 4.0), "link to the next", "ink", "end", 11.0, halo=True
    )


def _holes(canvas: Canvas, setting: SettingReport, scale: _Scale, system: System) -> None:
    """Draw the hole of each valve and its height in words; words give way to each other."""
    told = sorted(
        ((hole, one) for one in setting.floats if (hole := _hole(one)) is not None), key=lambda pair: -pair[0]
    )
    places = spread([scale.up(hole) - 2.0 for hole, _ in told], 2.0 * LINE, TOP - 8.0, scale.up(0.0))
    for (hole, one), place in zip(told, places, strict=True):
        wall, up = _near_at(one, scale, hole), scale.up(hole)
        inner = scale.at(one.pin)[0] if one.pin else wall + 14.0
        canvas.line([(wall - 16.0, up), (inner, up)], "ink", 5.0)
        canvas.circle((wall, up), 6.0, "short", "sheet", wide=2.5)
        said = "bracket" if not setting.shape_known else "hole" if one.hole_m is not None else "hole, arm level"
        if len(told) > 1:
            canvas.line([(wall - 16.0, up), (wall - 22.0, place + 3.0)], "faint")
        canvas.text((wall - 24.0, place), said, anchor="end", bold=True)
        canvas.text((wall - 24.0, place + 14.0), f"{length_text(hole, system)} up", anchor="end")


def _hole(one: SetFloatReport) -> float | None:
    return one.level_hole_m if one.hole_m is None else one.hole_m


def _near_at(one: SetFloatReport, scale: _Scale, hole: float) -> float:
    """Return where the wall is at the hole [px]: behind the pin, or at the section's near side."""
    return scale.at((one.wall_at_m if one.wall_at_m is not None else scale.low_m, hole))[0]


def _levels(canvas: Canvas, setting: SettingReport, scale: _Scale, system: System) -> None:
    """Draw each height as a line to its words; words give way to each other."""
    right = scale.at((scale.high_m, 0.0))[0]
    heights = [scale.up(level.at_m) for level in setting.levels]
    places = spread([height + 4.0 for height in heights], LINE, TOP - 8.0, scale.up(0.0) + 6.0)
    for level, height, place in zip(setting.levels, heights, places, strict=True):
        ink, dash = INK_OF[level.kind], WALL_DASH if level.kind in ("opens", "needs") else None
        start = right - 26.0
        if level.kind in ("closes", "opens"):
            start = scale.at(_up_to(_sides(setting.outline)[0], min(level.at_m, scale.top_m))[-1])[0]
        canvas.line([(start, height), (right + 8.0, height), (right + 26.0, place - 4.0)], ink, 1.0, dash)
        bold = level.kind in ("closes", "overflow", "cable")
        canvas.text((right + 30.0, place), f"{level.name} {length_text(level.at_m, system)}", ink, bold=bold)


def _foot(canvas: Canvas, setting: SettingReport, scale: _Scale, system: System) -> None:
    inside = max(spot[0] for spot in setting.outline) - min(spot[0] for spot in setting.outline)
    ends = (scale.at((scale.low_m, 0.0))[0], scale.at((scale.high_m, 0.0))[0])
    down = scale.up(0.0) + 16.0
    canvas.line([(ends[0], down), (ends[1], down)], "faint")
    for end in ends:
        canvas.line([(end, down - 4.0), (end, down + 4.0)], "faint")
    words = f"{length_text(inside, system)} inside" + (", broken off here" if scale.is_broken else "")
    if not setting.shape_known:
        words = "walls drawn round by volume; their slope is not known"
    canvas.text(((ends[0] + ends[1]) / 2.0, down + 16.0), words, "faint", "middle")


def travel_mm(one: SetFloatReport) -> float | None:
    """Return how far a float's middle moves along its arc between shut and wide open [mm]."""
    if len(one.travel) < 2:
        return None
    return sum(math.dist(*pair) for pair in pairwise(one.travel)) * 1_000.0
