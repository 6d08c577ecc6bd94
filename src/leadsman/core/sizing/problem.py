"""What is sized: lines with the pipes they may be of, and what must hold at outlets and places."""

from collections.abc import Iterable
from dataclasses import dataclass

from leadsman.core.base.errors import CoreError
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.base.units import head_m_from_pa, m3s_from_lpm, m_from_mm, pa_from_kpa
from leadsman.core.catalogue import pipes
from leadsman.core.design import Design, FixedOutlet, Line


@dataclass(frozen=True, kw_only=True)
class Choice:
    """A pipe that a line may be of: bore and roughness [m], price of a metre; `product_id` as its list calls it."""

    product_id: str
    bore_m: float
    roughness_m: float
    price_per_m: float


@dataclass(frozen=True, kw_only=True)
class SizedLine:
    """A line that is sized, and its choices from the cheapest: each dearer one is wider.

    `of` is the line that it is a piece of; None where it is no piece.
    """

    line: Line
    choices: tuple[Choice, ...]
    of: str | None = None

    def price(self, number: int) -> float:
        """Return what the line costs, all of one choice."""
        return self.choices[number].price_per_m * self.line.pipe_length_m


@dataclass(frozen=True, kw_only=True)
class Must:
    """What must hold: a flow of an outlet [m3/s], or a pressure at a place or a fixed outlet [m of water over it]."""

    where: str
    flow_m3s: float | None = None
    pressure_m: float | None = None


@dataclass(frozen=True, kw_only=True)
class Problem:
    """A plan to be sized. `friction` is the school of its products, `coefficient` Hazen's and Williams' where it is."""

    design: Design
    lines: tuple[SizedLine, ...]
    musts: tuple[Must, ...]
    friction: str
    coefficient: float | None
    split: bool

    def cost(self, row: tuple[int, ...]) -> float:
        """Return what the pipes of a plan cost, a choice for each line."""
        return sum(line.price(number) for line, number in zip(self.lines, row, strict=True))


def problem_of(design: Design, density_kgm3: float) -> Problem:
    """Return what there is to size in a design.

    Raises:
        DesignFaults: no line has a pipe with a price, or nothing is required of any outlet or place.
    """
    sizing = design.sizing
    coefficient = None
    if sizing is not None and sizing.products:
        coefficient = sizing.products[0].hazen_williams_c
        listed = _rising(
            Choice(
                product_id=product.id, bore_m=m_from_mm(product.bore_mm),
                roughness_m=m_from_mm(product.roughness_mm or 0.0), price_per_m=product.price_per_m,
            )
            for product in sizing.products
        )  # fmt: skip
        lines = [SizedLine(line=line, choices=listed) for line in design.lines if not line.shut]
    else:
        lines = [
            SizedLine(line=line, choices=choices)
            for line in design.lines
            if not line.shut and (choices := _of_series(design, line))
        ]
    if not lines:
        raise _fault("/sizing/products", "no pipe with a price", "priced pipes, or lines of a product that has a price")
    musts = _musts(design, density_kgm3)
    if not musts:
        raise _fault("/requirements", "nothing", "a flow or a pressure required of an outlet or a place")
    return Problem(
        design=design, lines=tuple(lines), musts=musts, coefficient=coefficient,
        friction="darcy" if coefficient is None else "hazen-williams",
        split=bool(sizing is not None and sizing.split),
    )  # fmt: skip


def _fault(path: str, found: str, allowed: str) -> DesignFaults:
    return DesignFaults([Fault(path=path, code="not_allowed", found=found, allowed=allowed)])


def _rising(choices: Iterable[Choice]) -> tuple[Choice, ...]:
    """Return choices from the cheapest, without those that cost more and are no wider."""
    found: list[Choice] = []
    for choice in sorted(choices, key=lambda one: (one.price_per_m, -one.bore_m)):
        if not found or choice.bore_m > found[-1].bore_m:
            found.append(choice)
    return tuple(found)


def _of_series(design: Design, line: Line) -> tuple[Choice, ...]:
    """Return the priced pipes of a line's series that hold its greatest pressure as the line's own does."""
    if line.product is None:
        return ()
    now = design.pipe(line.product)
    own = [pipe for pipe in (*design.own_pipes, *pipes().values()) if pipe.series == now.series]
    return _rising(
        Choice(
            product_id=pipe.product_id, bore_m=pipe.bore_m, roughness_m=pipe.roughness_m, price_per_m=pipe.price_per_m
        )
        for pipe in own
        if pipe.price_per_m is not None
    )


def _musts(design: Design, density_kgm3: float) -> tuple[Must, ...]:
    def metres(kpa: float) -> float:
        return head_m_from_pa(pa_from_kpa(kpa), density_kgm3)

    fixed = {outlet.id: outlet for outlet in design.outlets if isinstance(outlet, FixedOutlet) and not outlet.shut}
    found = [Must(where=outlet.id, pressure_m=metres(outlet.min_pressure_kpa)) for outlet in fixed.values()]
    for number, wanted in enumerate(design.requirements):
        where = wanted.outlet or wanted.place
        if where is None or (wanted.flow_lpm is None and wanted.pressure_kpa is None):
            continue
        if wanted.flow_lpm is not None:
            if wanted.outlet is None:
                raise _fault(f"/requirements/{number}", "a flow of a place", "a flow of an outlet")
            drawn = fixed.get(where)
            if drawn is not None and drawn.flow_lpm < wanted.flow_lpm:
                raise _fault(
                    f"/requirements/{number}/flow_lpm", f"{wanted.flow_lpm:g}",
                    f"at most the {drawn.flow_lpm:g} L/min that the outlet draws",
                )  # fmt: skip
            if drawn is None:
                found.append(Must(where=where, flow_m3s=m3s_from_lpm(wanted.flow_lpm)))
        if wanted.pressure_kpa is not None:
            found.append(Must(where=where, pressure_m=metres(wanted.pressure_kpa)))
    return tuple(found)


class NothingFits(CoreError):
    """No pipes among those that may be chosen give what is required; says what would."""
