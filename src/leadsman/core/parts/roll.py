"""Pipe cut from rolls: which roll each line gets which piece of, where joins fall, and what is left over."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.catalogue import PipeProduct
from leadsman.core.design import Design
from leadsman.core.parts.laid_pipe import pipes_of

LEAST_PIECE_M = 10.0  # a shorter piece of a roll makes one join more and saves little: it stays an offcut; ours
HARDLY_USED = 0.05  # of a roll: a hint to shorten the way by as much; ours
SAME_M = 1e-6
# kg/m3, typical, from memory; by what a family's name begins with
DENSITIES = {"PE": 950.0, "Micro tube": 950.0, "PVC": 1_400.0, "Hose": 1_300.0, "Rubber": 1_200.0, "Air hose": 1_200.0}


@dataclass(frozen=True, kw_only=True)
class Piece:
    """A piece of a roll in a line, from one distance along it to another [m]; rolls are counted from 1."""

    line: str
    from_m: float
    to_m: float
    roll: int

    @property
    def length_m(self) -> float:
        return self.to_m - self.from_m


@dataclass(frozen=True, kw_only=True)
class Rolls:
    """One product cut from rolls of a length [m]; `roll_m` None where it is sold by the metre."""

    product: PipeProduct
    roll_m: float | None
    count: int
    pieces: tuple[Piece, ...]

    @property
    def length_m(self) -> float:
        """What the plan needs of it [m]."""
        return sum(piece.length_m for piece in self.pieces)

    @property
    def offcut_m(self) -> float:
        """What is left of the rolls [m]; 0 where it is sold by the metre."""
        return 0.0 if self.roll_m is None else max(self.count * self.roll_m - self.length_m, 0.0)

    @property
    def least_used_m(self) -> float | None:
        """How much of the roll is used of which least is [m], where that is hardly worth a roll; None elsewhere."""
        if self.roll_m is None:
            return None
        used = [sum(piece.length_m for piece in self.pieces if piece.roll == roll) for roll in range(1, self.count + 1)]
        least = min(used, default=self.roll_m)
        return least if self.count > 1 and least <= HARDLY_USED * self.roll_m else None

    @property
    def weight_kg(self) -> float | None:
        """What is bought of it weighs [kg], empty, whole rolls, at its least wall; None for a pipe of unknown stuff."""
        dense = next((kgm3 for begins, kgm3 in DENSITIES.items() if self.product.family.startswith(begins)), None)
        if dense is None:
            return None
        section_m2 = math.pi * (self.product.outer_m - self.product.wall_m) * self.product.wall_m
        return dense * section_m2 * (self.length_m if self.roll_m is None else self.count * self.roll_m)

    @property
    def joins(self) -> list[tuple[str, float]]:
        """Where two pieces of a line meet: the line, and how far along it [m]."""
        pairs = zip(self.pieces, self.pieces[1:], strict=False)
        return [(a.line, a.to_m) for a, b in pairs if a.line == b.line and abs(a.to_m - b.from_m) < SAME_M]


def rolls_of(design: Design) -> list[Rolls]:
    """Return every pipe product of a design cut from rolls, in the order in which lines name them.

    Whole rolls go first into each line; its rest comes from the shortest offcut that is long enough, else from a new
    roll: the longest rests first, so that little is left (first fit decreasing; Johnson 1973, from memory).
    """
    needed: dict[str, list[tuple[str, float, float]]] = {}
    products: dict[str, PipeProduct] = {}
    for line in design.lines:
        at_m = 0.0
        for product, length_m in pipes_of(design, line):
            products[product.product_id] = product
            needed.setdefault(product.product_id, []).append((line.id, at_m, at_m + length_m))
            at_m += length_m
    return [_cut(products[product_id], spans) for product_id, spans in needed.items()]


def _cut(product: PipeProduct, spans: list[tuple[str, float, float]]) -> Rolls:
    roll_m = product.coil_m
    if roll_m is None:
        pieces = tuple(Piece(line=line, from_m=begin, to_m=end, roll=0) for line, begin, end in spans)
        return Rolls(product=product, roll_m=None, count=0, pieces=pieces)
    left: list[float] = []  # of each roll
    cuts: dict[int, list[Piece]] = {}
    rests: list[tuple[int, float]] = []
    for number, (line, begin, end) in enumerate(spans):
        at_m = begin
        while end - at_m >= roll_m - SAME_M:
            left.append(0.0)
            cuts.setdefault(number, []).append(Piece(line=line, from_m=at_m, to_m=at_m + roll_m, roll=len(left)))
            at_m += roll_m
        if end - at_m > SAME_M:
            rests.append((number, at_m))
    for number, at_m in sorted(rests, key=lambda rest: -(spans[rest[0]][2] - rest[1])):
        line, _, end = spans[number]
        fits = [index for index, rest_m in enumerate(left) if rest_m >= end - at_m - SAME_M and rest_m >= LEAST_PIECE_M]
        index = min(fits, key=lambda one: left[one], default=-1)
        if index < 0:
            left.append(roll_m)
            index = len(left) - 1
        left[index] = max(left[index] - (end - at_m), 0.0)
        cuts.setdefault(number, []).append(Piece(line=line, from_m=at_m, to_m=end, roll=index + 1))
    pieces = tuple(piece for number in range(len(spans)) for piece in cuts.get(number, []))
    return Rolls(product=product, roll_m=roll_m, count=len(left), pieces=pieces)


def joins_of(cut: list[Rolls], line: str) -> Iterator[tuple[float, PipeProduct]]:
    """Yield where pieces of one product meet in a line, how far along it [m], and the product."""
    for rolls in cut:
        for joined, at_m in rolls.joins:
            if joined == line:
                yield at_m, rolls.product
