"""A line rolled out straight: posts to count, joins, taps, parts and crossings along it."""

from collections.abc import Mapping

from leadsman.core.base.unit_system import TABLES, System
from leadsman.core.report.parts import LayingReport
from leadsman.formats.drawing.canvas import Anchor, Canvas, Ink, spread

BELOW, LEFT, RIGHT, POSTS = 46.0, 14.0, 14.0, 20.0
MOST_POSTS = 90  # more would be a grey bar
SHOWN = {"join": "join", "tap": "tap", "part": "", "crossing": "under", "end": "end", "begin": "start"}


def laying_drawing(
    sheet: LayingReport, post_m: float | None, width: float, system: System, inks: Mapping[Ink, str],
    font: str | None = None,
) -> str:  # fmt: skip
    """Return a line as a strip, as SVG; its posts where it is said how far apart they stand."""
    has_posts = bool(post_m) and sheet.length_m / (post_m or 1.0) <= MOST_POSTS
    down = 10.0 + (POSTS if has_posts else 0.0)
    canvas = Canvas(width, down + BELOW, inks, font)
    per_m = (width - LEFT - RIGHT) / max(sheet.length_m, 1e-6)
    if post_m and has_posts:
        for number in range(int(sheet.length_m / post_m) + 1):
            x = LEFT + number * post_m * per_m
            canvas.line([(x, down - 18.0), (x, down - 8.0)], "faint")
    canvas.line([(LEFT, down), (width - RIGHT, down)], "pipe", 4.0)
    stops = [stop for stop in sheet.stops if stop.kind != "roll"]
    shown = TABLES[system]["m"]
    places = spread([LEFT + stop.at_m * per_m for stop in stops], 42.0, LEFT, width - RIGHT)
    for stop, place in zip(stops, places, strict=True):
        x = LEFT + stop.at_m * per_m
        if stop.kind == "crossing":
            canvas.line(
                [(x, down + 7.0), (x, down - 7.0), (x + 12.0, down - 7.0), (x + 12.0, down + 7.0)], "ink", 1.2, "3 2"
            )
        else:
            canvas.circle((x, down), 5.0, "ink", "sheet")
        canvas.line([(x, down + 6.0), (place, down + 18.0)], "rule", 0.8)
        anchor: Anchor = "start" if place < LEFT + 20.0 else "end" if place > width - RIGHT - 20.0 else "middle"
        canvas.text((place, down + 30.0), f"{stop.at_m * shown.factor:.0f} {shown.unit}", "ink", anchor, 10.0)
        word = SHOWN.get(stop.kind) or "".join(part for part in stop.told if isinstance(part, str))
        canvas.text((place, down + 42.0), word[:14], "faint", anchor, 9.0)
    return canvas.svg("The line rolled out")
