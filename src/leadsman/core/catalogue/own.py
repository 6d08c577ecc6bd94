"""A user's own rows: read from the text of a table, all of them or none."""

import csv
import io
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from pydantic import ValidationError

from leadsman.core.base.fault import DesignFaults, Fault, faults_from
from leadsman.core.base.spreadsheet import text_of_cell
from leadsman.core.catalogue import product_of, rows
from leadsman.core.catalogue.product import OWN, TABLES, Product, Table

PREFIX = f"{OWN}-"
MOST_ROWS = 500


def own_products(table: Table, text: str) -> list[Product]:
    """Return the products in a CSV text with the columns of a table; rows of other sources than one's own are left out.

    So a table that was taken out whole, and added to, may be brought back as it is.

    Raises:
        DesignFaults: every row that is none, with its number and column, what was found and what is allowed.
    """
    reader = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    try:
        columns, told_rows = list(reader.fieldnames or []), list(reader)
    except csv.Error as error:
        found = str(error)[:80]
        raise DesignFaults([Fault(path="/", code="not_csv", found=found, allowed="rows of separated values")]) from None
    known = list(rows(table)[0])
    strange = [name for name in columns if name not in known]
    if strange or not {"product_id", "name"} <= set(columns):
        found = ", ".join(strange) or ", ".join(columns) or "nothing"
        raise DesignFaults(
            [Fault(path="/0", code="not_its_columns", found=found[:200], allowed=f"columns of {', '.join(known)}")]
        )
    found_rows = [(number, row) for number, row in enumerate(told_rows, 1) if (row.get("source_id") or OWN) == OWN]
    if not 0 < len(found_rows) <= MOST_ROWS:
        raise DesignFaults(
            [Fault(path="/", code="no_rows", found=str(len(found_rows)), allowed=f"1 to {MOST_ROWS} rows of your own")]
        )
    faults, products = [], []
    for number, row in found_rows:
        if None in row or None in row.values():
            faults.append(
                Fault(path=f"/{number}", code="ragged", found="more or fewer columns", allowed="as many as in the head")
            )
            continue
        try:
            told = {key: text_of_cell(cell) for key, cell in row.items()}
            products.append(product_of(table, {**told, "product_id": own_id(row["product_id"]), "source_id": OWN}))
        except ValidationError as error:
            faults += [replace(fault, path=f"/{number}{fault.path}") for fault in faults_from(error)]
    if faults:
        raise DesignFaults(faults)
    return products


def own_product(table: Table, told: Mapping[str, Any]) -> Product:
    """Return the product that a user tells of, under a name that begins with "own-".

    Raises:
        DesignFaults: what is not as its table takes it.
    """
    try:
        return TABLES[table].model_validate(
            {**told, "product_id": own_id(str(told.get("product_id"))), "source_id": OWN}
        )
    except ValidationError as error:
        raise DesignFaults(faults_from(error)) from None


def kept_product(table: Table, told: Mapping[str, Any]) -> Product | None:
    """Return a product that was kept earlier, perhaps by an older version; None where it is no longer one."""
    try:
        return TABLES[table].model_validate(told)
    except ValidationError:
        return None


def own_id(given: str) -> str:
    """Return a name of one's own, that no packaged row has."""
    return given if given.startswith(PREFIX) else PREFIX + given
