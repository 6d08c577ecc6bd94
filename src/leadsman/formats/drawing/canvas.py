"""A drawing of lines, shapes and words that becomes SVG; what is written is always text, never markup."""

import math
from collections.abc import Mapping, Sequence
from typing import Literal, get_args
from xml.etree import ElementTree

from leadsman.core.base.unit_system import INCH_MM, System
from leadsman.core.base.units import MILLIMETRE_M

Ink = Literal["ink", "faint", "rule", "water", "deep", "pipe", "short", "sheet", "land", "ground"]
INKS: tuple[Ink, ...] = get_args(Ink)
PAGE: Mapping[Ink, str] = {
    name: f"var(--lm-palette-chart-{name})" for name in INKS
}  # the page's own, which follow light and dark
GREYS: Mapping[Ink, str] = {
    "ink": "#000000", "faint": "#444444", "rule": "#999999", "water": "#d4dcdf", "deep": "#222222", "pipe": "#333333",
    "short": "#000000", "sheet": "#ffffff", "land": "#eeeeee", "ground": "#777777",
}  # fmt: skip

Spot = tuple[float, float]
Anchor = Literal["start", "middle", "end"]


class Canvas:
    """A drawing of a size [px], in inks that are given their colours by whoever shows it."""

    def __init__(self, width: float, height: float, inks: Mapping[Ink, str], font: str | None = None) -> None:
        self.width, self.height, self.inks = width, height, inks
        size = {"viewBox": f"0 0 {_told(width)} {_told(height)}", "width": _told(width), "height": _told(height)}
        self.root = ElementTree.Element("svg", {"xmlns": "http://www.w3.org/2000/svg", **size})
        if font:
            self.root.set("font-family", font)

    def line(self, spots: Sequence[Spot], ink: Ink = "ink", wide: float = 1.0, dash: str | None = None) -> None:
        """Draw straight lines through spots."""
        style = {"fill": "none", "stroke": self.inks[ink], "stroke-width": _told(wide), "stroke-linejoin": "round"}
        if dash:
            style["stroke-dasharray"] = dash
        self._add("polyline", points=_points(spots), **style)

    def area(self, spots: Sequence[Spot], ink: Ink, edge: Ink | None = None, opacity: float = 1.0) -> None:
        """Fill what lies between spots."""
        style = {"fill": self.inks[ink], "fill-opacity": _told(opacity)}
        if edge:
            style["stroke"] = self.inks[edge]
        self._add("polygon", points=_points(spots), **style)

    def circle(
        self,
        at: Spot,
        radius: float,
        edge: Ink = "ink",
        ink: Ink | None = None,
        dash: str | None = None,
        wide: float = 1.5,
    ) -> None:
        """Draw a circle, filled where an ink for that is given."""
        style = {"fill": self.inks[ink] if ink else "none", "stroke": self.inks[edge], "stroke-width": _told(wide)}
        if dash:
            style["stroke-dasharray"] = dash
        self._add("circle", cx=_told(at[0]), cy=_told(at[1]), r=_told(radius), **style)

    def text(
        self,
        at: Spot,
        words: str,
        ink: Ink = "ink",
        anchor: Anchor = "start",
        size: float = 12.0,
        bold: bool = False,
        halo: bool = False,
    ) -> None:
        """Write words whose baseline begins, has its middle or ends at a spot; with a halo over what is drawn there."""
        style = {"fill": self.inks[ink], "text-anchor": anchor, "font-size": _told(size)}
        if bold:
            style["font-weight"] = "700"
        if halo:
            style |= {"stroke": self.inks["sheet"], "stroke-width": "3", "paint-order": "stroke"}
        self._add("text", x=_told(at[0]), y=_told(at[1]), **style).text = words

    def svg(self, title: str) -> str:
        """Return the drawing, with what it shows as its name."""
        named = ElementTree.Element("title")
        named.text = title
        self.root.insert(0, named)
        return ElementTree.tostring(self.root, encoding="unicode")

    def _add(self, tag: str, **attributes: str) -> ElementTree.Element:
        return ElementTree.SubElement(self.root, tag, attributes)


def spread(wanted: Sequence[float], least: float, low: float, high: float) -> list[float]:
    """Return places near the wanted ones, rising as those do, at least so far apart, within a range where it has room.

    >>> spread([10.0, 12.0, 40.0], 14.0, 0.0, 100.0)
    [10.0, 24.0, 40.0]
    """
    placed: list[float] = []
    for place in wanted:
        placed.append(max(place, placed[-1] + least if placed else low))
    over = placed[-1] - high if placed else 0.0
    if over > 0.0:
        placed[-1] = high
        for number in range(len(placed) - 2, -1, -1):
            placed[number] = min(placed[number], placed[number + 1] - least)
    return placed


def length_text(metres: float, system: System) -> str:
    """Return a length as a rule shows it: in millimetres to a metre, or inches with eighths.

    >>> length_text(0.48, "metric"), length_text(0.48, "us"), length_text(2.4, "metric")
    ('480 mm', '18 7/8 in', '2.40 m')
    """
    if system == "metric":
        return f"{metres / MILLIMETRE_M:.0f} mm" if abs(metres) < 1.0 else f"{metres:.2f} m"
    eighths = round(abs(metres) / MILLIMETRE_M / INCH_MM * 8.0)
    whole, part = divmod(eighths, 8)
    sign = "-" if metres < 0.0 and eighths else ""
    if not part:
        return f"{sign}{whole} in"
    common = math.gcd(part, 8)
    fraction = f"{part // common}/{8 // common}"
    return f"{sign}{whole} {fraction} in" if whole else f"{sign}{fraction} in"


def _points(spots: Sequence[Spot]) -> str:
    return " ".join(f"{_told(across)},{_told(down)}" for across, down in spots)


def _told(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")
