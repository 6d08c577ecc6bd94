"""What vessels are made of: how long they are kept, what ice does to them, what they stand on."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from leadsman.core.catalogue.table import rows


@dataclass(frozen=True, kw_only=True)
class Material:
    """A kind of vessel by what it is made of; `life_years` is how long it is kept, `dark` whether light is kept out."""

    name: str
    products: tuple[str, ...]
    life_years: float
    in_ice: str
    base: str
    dark: bool
    source_id: str


@cache
def materials() -> Mapping[str, Material]:
    """Return every kind by its name."""
    return MappingProxyType(
        {
            row["name"]: Material(
                name=row["name"],
                products=tuple(row["products"].split()),
                life_years=float(row["life_years"]),
                in_ice=row["in_ice"],
                base=row["base"],
                dark=row["dark"] == "1",
                source_id=row["source_id"],
            )
            for row in rows("material")
        }
    )


def material_of(product_id: str) -> Material | None:
    """Return what a vessel of the catalogue is made of; None for a user's own.

    >>> material_of("trough-tyre-1.8").name
    'tyre'
    """
    return next((one for one in materials().values() if product_id.startswith(one.products)), None)
