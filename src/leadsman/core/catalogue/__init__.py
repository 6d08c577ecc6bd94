"""Packaged tables with their sources, read once. The only place in the core that opens files."""

import csv
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from types import MappingProxyType

from leadsman.core.errors import UnknownName
from leadsman.core.units import m_from_mm

SAME_M = 1e-5
DATA = files("leadsman.core.catalogue") / "data"


@dataclass(frozen=True)
class Source:
    """Where figures come from."""

    author: str
    year: int | None
    title: str


@dataclass(frozen=True)
class PipeProduct:
    """A pipe as it is sold, described generically: bores and roughness [m], pressure class [kPa] at 20 °C.

    `outer_m` is its outer diameter; `bore_m` leaves the least wall, `mean_bore_m` the mean of what the standard's
    tolerances allow; `aged_roughness_m` is that of pipe long in service.
    """

    product_id: str
    name: str
    family: str
    outer_m: float
    bore_m: float
    mean_bore_m: float
    roughness_m: float
    aged_roughness_m: float
    class_kpa: float
    source_id: str
    locator: str
    note: str

    def same_size(self, other: "PipeProduct") -> bool:
        """Whether it takes the same fittings: of one outer diameter, or of one family and bore."""
        alike = self.family == other.family and abs(self.bore_m - other.bore_m) < SAME_M
        return alike or abs(self.outer_m - other.outer_m) < SAME_M


@dataclass(frozen=True)
class FittingProduct:
    """A fitting whose K is a multiple of f_T of its size, or a K of its own."""

    product_id: str
    name: str
    times_ft: float | None
    k: float | None
    source_id: str
    locator: str
    note: str


@cache
def rows(table: str) -> list[dict[str, str]]:
    """Return the rows of a packaged CSV table as printed."""
    return list(csv.DictReader((DATA / f"{table}.csv").read_text(encoding="utf-8").splitlines()))


@cache
def sources() -> Mapping[str, Source]:
    """Return every source by its id."""
    text = tomllib.loads((DATA / "sources.toml").read_text(encoding="utf-8"))
    return MappingProxyType(
        {name: Source(entry["author"], entry.get("year"), entry["title"]) for name, entry in text.items()}
    )


@cache
def pipes() -> Mapping[str, PipeProduct]:
    """Return every pipe product by its id; a PE bore is outer diameter − 2 × least wall."""
    products = {}
    for row in rows("pipe"):
        outer, wall = float(row["outer_mm"]), float(row["wall_mm"])
        products[row["product_id"]] = PipeProduct(
            product_id=row["product_id"],
            name=row["name"],
            family=row["family"],
            outer_m=m_from_mm(outer),
            bore_m=m_from_mm(round(outer - 2 * wall, 3)),
            mean_bore_m=m_from_mm(float(row["mean_bore_mm"])),
            roughness_m=m_from_mm(float(row["roughness_mm"])),
            aged_roughness_m=m_from_mm(float(row["aged_roughness_mm"])),
            class_kpa=float(row["class_bar"]) * 100.0,
            source_id=row["source_id"],
            locator=row["locator"],
            note=row["note"],
        )
    return MappingProxyType(products)


@cache
def fittings() -> Mapping[str, FittingProduct]:
    """Return every fitting product by its id."""
    return MappingProxyType(
        {
            row["product_id"]: FittingProduct(
                product_id=row["product_id"],
                name=row["name"],
                times_ft=float(row["times_ft"]) if row["times_ft"] else None,
                k=float(row["k"]) if row["k"] else None,
                source_id=row["source_id"],
                locator=row["locator"],
                note=row["note"],
            )
            for row in rows("fitting")
        }
    )


def pipe_product(product_id: str, path: str = "") -> PipeProduct:
    """Return a pipe product.

    Raises:
        UnknownName: the catalogue has none of that id; nothing is put in its place.
    """
    if product_id not in pipes():
        raise UnknownName("pipe product", product_id, sorted(pipes()), path)
    return pipes()[product_id]


def fitting_product(product_id: str, path: str = "") -> FittingProduct:
    """Return a fitting product.

    Raises:
        UnknownName: the catalogue has none of that id.
    """
    if product_id not in fittings():
        raise UnknownName("fitting product", product_id, sorted(fittings()), path)
    return fittings()[product_id]
