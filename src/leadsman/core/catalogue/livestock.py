"""Animals: what published tables and guides say that they drink, and how they stand at a trough."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType
from typing import Literal, cast

from leadsman.core.base.units import LITRE_M3, MINUTE_S
from leadsman.core.catalogue.table import rows

IntakeMethod = Literal["table", "equation", "guide"]


@dataclass(frozen=True, kw_only=True)
class Animal:
    """A class of animal: how its intake is found, its width at a rim [m], drinking rate [m3/s], usual weight.

    A guide runs straight from `low_lpd` at `low_c` to `high_lpd` at `high_c` [L/d, °C].
    """

    name: str
    species: str
    way: IntakeMethod
    low_c: float
    low_lpd: float
    high_c: float
    high_lpd: float
    counts_feed_water: bool
    rim_m: float
    drinks_m3s: float
    usual_kg: float
    source_id: str
    locator: str
    note: str

    @property
    def gives_milk(self) -> bool:
        """Whether its intake goes with the milk that it gives."""
        return self.name == "dairy cow in milk"


@dataclass(frozen=True, kw_only=True)
class DrinkingRoom:
    """Least room to drink that a rule asks for: trough edge of one [m], edge of a round one [m], heads to a nipple."""

    animal: str
    trough_m: float
    round_m: float
    heads_per_nipple: float
    source_id: str
    locator: str


@dataclass(frozen=True, kw_only=True)
class WalkingLimit:
    """How far from water a class or species is kept at most [m], while grass grows and while it does not."""

    kind: str
    growing_m: float
    dormant_m: float
    source_id: str
    locator: str
    note: str


@dataclass(frozen=True, kw_only=True)
class IntakeRow:
    """Water drunk [L/d a head] by a class at a weight [kg] and an air temperature [°C]."""

    animal: str
    weight_kg: float
    air_c: float
    intake_lpd: float
    source_id: str
    locator: str
    note: str


@dataclass(frozen=True, kw_only=True)
class WeightRule:
    """What a published guide gives a class by its weight, from a temperature [°C] upwards [L/d for each kg]."""

    animal: str
    from_c: float
    litres_per_kg: float
    source_id: str
    locator: str
    note: str


@dataclass(frozen=True, kw_only=True)
class EquationRow:
    """A published equation for a class of animal."""

    equation: str
    animal: str
    source_id: str
    locator: str
    note: str


@cache
def animals() -> Mapping[str, Animal]:
    """Return every class of animal by its name."""
    return MappingProxyType({row["animal"]: _animal(row) for row in rows("animal")})


@cache
def intake_rows() -> tuple[IntakeRow, ...]:
    """Return the livestock intake table."""
    return tuple(
        IntakeRow(
            animal=row["animal"],
            weight_kg=float(row["weight_kg"]),
            air_c=float(row["air_c"]),
            intake_lpd=float(row["intake_lpd"]),
            source_id=row["source_id"],
            locator=row["locator"],
            note=row["note"],
        )
        for row in rows("livestock_intake")
    )


@cache
def weight_rules() -> tuple[WeightRule, ...]:
    """Return what guides give by weight, in table order."""
    return tuple(
        WeightRule(
            animal=row["animal"],
            from_c=float(row["from_c"]),
            litres_per_kg=float(row["litres_per_kg"]),
            source_id=row["source_id"],
            locator=row["locator"],
            note=row["note"],
        )
        for row in rows("weight_rule")
    )


@cache
def drinking_rooms() -> Mapping[str, DrinkingRoom]:
    """Return the least room to drink by class of animal, for those that a rule names."""
    found = {
        row["animal"]: DrinkingRoom(
            animal=row["animal"],
            trough_m=float(row["trough_m"]),
            round_m=float(row["round_m"]),
            heads_per_nipple=float(row["heads_per_nipple"]),
            source_id=row["source_id"],
            locator=row["locator"],
        )
        for row in rows("drinking_room")
    }
    return MappingProxyType(found)


@cache
def walking_limits() -> Mapping[str, WalkingLimit]:
    """Return how far animals are to walk to water, by class or else species."""
    return MappingProxyType(
        {
            row["kind"]: WalkingLimit(
                kind=row["kind"],
                growing_m=float(row["growing_m"]),
                dormant_m=float(row["dormant_m"]),
                source_id=row["source_id"],
                locator=row["locator"],
                note=row["note"],
            )
            for row in rows("walking")
        }
    )


@cache
def equation_rows() -> tuple[EquationRow, ...]:
    """Return which equation holds for which class."""
    return tuple(EquationRow(**row) for row in rows("intake_equation"))


def _animal(row: dict[str, str]) -> Animal:
    low_c, low_lpd, high_c, high_lpd = (
        float(row[column] or 0.0) for column in ("low_c", "low_lpd", "high_c", "high_lpd")
    )
    return Animal(
        name=row["animal"],
        species=row["species"],
        way=cast(IntakeMethod, row["way"]),
        low_c=low_c,
        low_lpd=low_lpd,
        high_c=high_c,
        high_lpd=high_lpd,
        counts_feed_water=row["feed_water"] == "counted",
        rim_m=float(row["rim_m"]),
        drinks_m3s=float(row["drink_lpm"]) * LITRE_M3 / MINUTE_S,
        usual_kg=float(row["usual_kg"]),
        source_id=row["source_id"],
        locator=row["locator"],
        note=row["note"],
    )
