"""What is chosen when a plan is sized: pipe and filter of a line, float valve of an outlet, stand of a tank."""

from collections.abc import Iterable
from dataclasses import dataclass

from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.design import FloatValveOutlet, Line, Vessel

AS_IT_IS = ""  # in place of a product: what the plan has stays


@dataclass(frozen=True, kw_only=True)
class PipeChoice:
    """A pipe that a line may be of: bore and roughness [m], price of a metre; `product_id` as its list calls it.

    What is laid already costs nothing.
    """

    product_id: str
    bore_m: float
    roughness_m: float
    price_per_m: float
    is_laid: bool = False


@dataclass(frozen=True, kw_only=True)
class ValveChoice:
    """A float valve that an outlet may have: Kv [m3/h], the pressure that it asks for [kPa], its price."""

    product_id: str
    kv_m3h: float
    least_kpa: float
    price: float
    is_laid: bool = False


@dataclass(frozen=True, kw_only=True)
class FilterChoice:
    """A filter that a line may have: Kv [m3/h], its price."""

    product_id: str
    kv_m3h: float
    price: float
    is_laid: bool = False


@dataclass(frozen=True, kw_only=True)
class StandChoice:
    """How much higher a tank may stand than it does [m], and what that costs."""

    rise_m: float
    price: float


@dataclass(frozen=True, kw_only=True)
class Piece:
    """A length of a line [m] of one pipe."""

    product_id: str
    length_m: float


@dataclass(frozen=True, kw_only=True)
class SizedLine:
    """A line that is sized, and its choices from the cheapest: each dearer one is wider.

    `of` is the line that it is a piece of; None where it is no piece.
    """

    line: Line
    choices: tuple[PipeChoice, ...]
    of: str | None = None

    @property
    def part_id(self) -> str:
        """The line's id in the plan."""
        return self.of or self.line.id

    def laid(self, number: int) -> Line:
        """Return the line all of one choice, given by bore and roughness."""
        choice = self.choices[number]
        return self.line.model_copy(
            update={"product": None, "runs": [], "length_m": self.line.pipe_length_m,
                    "bore_mm": choice.bore_m / MILLIMETRE_M, "roughness_mm": choice.roughness_m / MILLIMETRE_M}
        )  # fmt: skip

    def price(self, number: int) -> float:
        """Return what the line costs, all of one choice."""
        return self.choices[number].price_per_m * self.line.pipe_length_m

    def takes(self, number: int) -> tuple[str, float]:
        """Return what is bought, and how many metres of it; no product where it is laid already."""
        choice = self.choices[number]
        return "" if choice.is_laid else choice.product_id, self.line.pipe_length_m

    def named(self, number: int) -> str:
        """Return the product of a choice."""
        return self.choices[number].product_id


class _OnePiece:
    """What is chosen of something of which one piece is bought."""

    choices: tuple[ValveChoice, ...] | tuple[FilterChoice, ...]

    def price(self, number: int) -> float:
        """Return what one costs."""
        return self.choices[number].price

    def takes(self, number: int) -> tuple[str, float]:
        """Return what is bought: one of it; no product where it is there already."""
        choice = self.choices[number]
        return "" if choice.is_laid else choice.product_id, 1.0

    def named(self, number: int) -> str:
        """Return the product of a choice."""
        return self.choices[number].product_id


@dataclass(frozen=True, kw_only=True)
class SizedValve(_OnePiece):
    """An outlet whose float valve is chosen, and its choices from the cheapest: each dearer one passes more."""

    outlet: FloatValveOutlet
    choices: tuple[ValveChoice, ...]

    @property
    def part_id(self) -> str:
        """The outlet's id in the plan."""
        return self.outlet.id


@dataclass(frozen=True, kw_only=True)
class SizedFilter(_OnePiece):
    """A line, with its filter, of which the filter is chosen; its choices from the cheapest, each passes more."""

    line: Line
    choices: tuple[FilterChoice, ...]

    @property
    def part_id(self) -> str:
        """The filter's name: no part of a plan has it."""
        return f"filter {self.line.id}"

    @property
    def without(self) -> Line:
        """The line without its filter."""
        return self.line.model_copy(update={"inline": [one for one in self.line.inline if one.kind != "filter"]})


@dataclass(frozen=True, kw_only=True)
class SizedStand:
    """A tank whose stand is chosen, and how much higher it may stand, from nothing on."""

    vessel: Vessel
    choices: tuple[StandChoice, ...]

    @property
    def part_id(self) -> str:
        """The vessel's id in the plan."""
        return self.vessel.id

    def price(self, number: int) -> float:
        """Return what a rise costs."""
        return self.choices[number].price

    def takes(self, _number: int) -> tuple[str, float]:
        """Return that no product is taken for it."""
        return "", 1.0

    def named(self, _number: int) -> str:
        """Return that it is no product."""
        return ""


Slot = SizedLine | SizedValve | SizedFilter | SizedStand


def rising_pipes(choices: Iterable[PipeChoice]) -> tuple[PipeChoice, ...]:
    """Return pipes from the cheapest, without those that cost more and are no wider."""
    found: list[PipeChoice] = []
    for choice in sorted(choices, key=lambda one: (one.price_per_m, -one.bore_m)):
        if not found or choice.bore_m > found[-1].bore_m:
            found.append(choice)
    return tuple(found)


def rising_valves(choices: Iterable[ValveChoice]) -> tuple[ValveChoice, ...]:
    """Return valves from the cheapest, without those that cost more, pass no more and ask for no less pressure."""
    found: list[ValveChoice] = []
    for choice in sorted(choices, key=lambda one: (one.price, -one.kv_m3h)):
        if not any(one.kv_m3h >= choice.kv_m3h and one.least_kpa <= choice.least_kpa for one in found):
            found.append(choice)
    return tuple(found)


def rising_filters(choices: Iterable[FilterChoice]) -> tuple[FilterChoice, ...]:
    """Return filters from the cheapest, without those that cost more and pass no more."""
    found: list[FilterChoice] = []
    for choice in sorted(choices, key=lambda one: (one.price, -one.kv_m3h)):
        if not found or choice.kv_m3h > found[-1].kv_m3h:
            found.append(choice)
    return tuple(found)
