"""What is sold and who drinks what: packaged tables with their sources, read once, and a user's own rows.

May import base and physics.
"""

from collections.abc import Iterable, Mapping
from functools import cache
from types import MappingProxyType
from typing import TypeVar, cast

from leadsman.core.base.errors import UnknownName
from leadsman.core.catalogue.product import (
    TABLES,
    FittingProduct,
    FloatValveProduct,
    PartProduct,
    PipeProduct,
    Product,
    Table,
    VesselProduct,
)
from leadsman.core.catalogue.table import rows, sources

__all__ = [
    "FittingProduct",
    "FloatValveProduct",
    "PartProduct",
    "PipeProduct",
    "Product",
    "VesselProduct",
    "fitting_product",
    "fittings",
    "float_valves",
    "parts",
    "pipe_product",
    "pipes",
    "product_of",
    "rows",
    "sources",
    "vessels",
]
T = TypeVar("T", bound=Product)


def product_of(table: Table, row: Mapping[str, str]) -> Product:
    """Return the product that a row of text is, columns left empty not being given.

    Raises:
        pydantic.ValidationError: a column is not what its table takes.
    """
    return TABLES[table].model_validate_strings({key: value for key, value in row.items() if value != ""})


@cache
def _products(table: Table) -> Mapping[str, Product]:
    return MappingProxyType({row["product_id"]: product_of(table, row) for row in rows(table)})


def pipes() -> Mapping[str, PipeProduct]:
    """Return every pipe product by its id."""
    return cast(Mapping[str, PipeProduct], _products("pipe"))


def fittings() -> Mapping[str, FittingProduct]:
    """Return every fitting product by its id."""
    return cast(Mapping[str, FittingProduct], _products("fitting"))


def parts() -> Mapping[str, PartProduct]:
    """Return every part that sits in a line or at its end, by its id."""
    return cast(Mapping[str, PartProduct], _products("part"))


def float_valves() -> Mapping[str, FloatValveProduct]:
    """Return every float valve by its id."""
    return cast(Mapping[str, FloatValveProduct], _products("float_valve"))


def vessels() -> Mapping[str, VesselProduct]:
    """Return every trough, tank and drum by its id."""
    return cast(Mapping[str, VesselProduct], _products("vessel"))


def _found(kind: str, known: Mapping[str, T], product_id: str, path: str) -> T:
    if product_id not in known:
        raise UnknownName(kind, product_id, sorted(known), path)
    return known[product_id]


def pipe_product(product_id: str, path: str = "", own: Iterable[PipeProduct] = ()) -> PipeProduct:
    """Return a pipe product, a design's own before the catalogue's.

    Raises:
        UnknownName: neither has one of that id; nothing is put in its place.
    """
    mine = next((product for product in own if product.product_id == product_id), None)
    return mine or _found("pipe product", pipes(), product_id, path)


def fitting_product(product_id: str, path: str = "") -> FittingProduct:
    """Return a fitting product.

    Raises:
        UnknownName: the catalogue has none of that id.
    """
    return _found("fitting product", fittings(), product_id, path)
