"""A joint as a row of pieces: each as high as its bore, the narrowest marked, what seals between each two."""

from collections.abc import Mapping

from leadsman.core.base.unit_system import TABLES, System
from leadsman.core.report.parts import ChainReport
from leadsman.formats.drawing.canvas import Canvas, Ink

FULL_PX = 440.0  # of a joint that fills its column
HEIGHT, WIDE, GAP, END = 56.0, 74.0, 22.0, 54.0
MIDDLE = 26.0
TALLEST = 36.0  # px, the widest bore of the joint


def joint_drawing(chain: ChainReport, system: System, inks: Mapping[Ink, str], font: str | None = None) -> str:
    """Return a joint as SVG: pieces numbered from its first end on, bores in the reader's units."""
    bores = [link.bore_mm for link in chain.links]
    widest = max([*bores, chain.narrowest_mm])
    width = joint_width_px(chain)
    canvas = Canvas(width, HEIGHT, inks, font)
    shown = TABLES[system]["mm"]
    x = 0.0
    _end(canvas, x, open_to_right=True)
    x += END
    for number, bore in enumerate(bores, start=1):
        _seal(canvas, x, number)
        x += GAP
        half = TALLEST / 2.0 * bore / widest
        narrow = bore <= chain.narrowest_mm + 0.05 and len(bores) > 1
        canvas.area(
            [(x, MIDDLE - half), (x + WIDE, MIDDLE - half), (x + WIDE, MIDDLE + half), (x, MIDDLE + half)],
            "water" if not narrow else "land", "ink",
        )  # fmt: skip
        digits = 1 if system == "metric" else 2
        told = f"{bore * shown.factor:.{digits}f} {shown.unit}"
        canvas.text((x + WIDE / 2.0, HEIGHT - 2.0), f"{told}{' narrowest' if narrow else ''}", anchor="middle", size=9)
        canvas.text((x + WIDE / 2.0, MIDDLE + 4.0), str(number), anchor="middle", size=11, bold=True)
        x += WIDE
    _seal(canvas, x, len(bores) + 1)
    _end(canvas, x + GAP, open_to_right=False)
    return canvas.svg("Pieces of the joint")


def joint_width_px(chain: ChainReport) -> float:
    """Return how wide a joint is drawn [px]."""
    return 2.0 * END + len(chain.links) * WIDE + (len(chain.links) + 1) * GAP


def _end(canvas: Canvas, x: float, *, open_to_right: bool) -> None:
    half = TALLEST / 2.0 - 3.0
    edges = [(x, MIDDLE - half), (x + END, MIDDLE - half), (x + END, MIDDLE + half), (x, MIDDLE + half)]
    canvas.area(edges, "land", "rule")
    canvas.text((x + END / 2.0, MIDDLE + 4.0), "from" if open_to_right else "to", "faint", "middle", 10.0)


def _seal(canvas: Canvas, x: float, number: int) -> None:
    """Draw the place where two pieces meet, with a letter that the words beside name."""
    canvas.line([(x, MIDDLE), (x + GAP, MIDDLE)], "ink", 1.5)
    canvas.circle((x + GAP / 2.0, MIDDLE), 7.5, "ink", "sheet", wide=1.0)
    canvas.text((x + GAP / 2.0, MIDDLE + 3.5), chr(ord("a") + (number - 1) % 26), anchor="middle", size=10)
