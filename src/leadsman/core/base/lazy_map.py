"""A mapping whose values are computed when they are first asked for."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from enum import Enum
from typing import TypeVar

T = TypeVar("T")


class _Missing(Enum):
    MISSING = "missing"


MISSING = _Missing.MISSING


class LazyMap(Mapping[str, T]):
    """Values by id, in the order of the ids; each is computed once."""

    def __init__(self, ids: Iterable[str], compute: Callable[[str], T]) -> None:
        self._compute = compute
        self._values: dict[str, T | _Missing] = dict.fromkeys(ids, MISSING)

    def __getitem__(self, part_id: str) -> T:
        value = self._values[part_id]
        if value is MISSING:
            value = self._values[part_id] = self._compute(part_id)
        return value

    def __iter__(self) -> Iterator[str]:
        return iter(self._values)

    def __len__(self) -> int:
        return len(self._values)
