"""Outside values as tables: read by the tests, each row with its source."""

import csv
from pathlib import Path


def table(name: str) -> list[dict[str, str]]:
    """Return the rows of a table of cases."""
    with (Path(__file__).parent / f"{name}.csv").open(encoding="utf-8", newline="") as file:
        return list(csv.DictReader(file))


def half_last_digit(printed: str) -> float:
    """Return half of the last printed digit: the tolerance that a published value gives itself."""
    return 0.5 * float(10 ** -len(printed.partition(".")[2]))
