"""Packaged tables as printed. The only place in the core that opens files."""

import csv
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from types import MappingProxyType

DATA = files("leadsman.core.catalogue") / "data"


@dataclass(frozen=True, kw_only=True)
class Source:
    """Where figures come from."""

    author: str
    year: int | None
    title: str


@cache
def rows(table: str) -> list[dict[str, str]]:
    """Return the rows of a packaged CSV table as printed."""
    return list(csv.DictReader((DATA / f"{table}.csv").read_text(encoding="utf-8").splitlines()))


@cache
def sources() -> Mapping[str, Source]:
    """Return every source by its id."""
    text = tomllib.loads((DATA / "sources.toml").read_text(encoding="utf-8"))
    return MappingProxyType(
        {
            name: Source(author=entry["author"], year=entry.get("year"), title=entry["title"])
            for name, entry in text.items()
        }
    )
