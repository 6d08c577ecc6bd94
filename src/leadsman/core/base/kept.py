"""What has been worked out of parts of the document, kept by those very objects: they never change."""

from typing import Generic, TypeVar

T = TypeVar("T")

MOST_KEPT = 5_000  # of each kind


class Kept(Generic[T]):
    """Values by the objects that they were worked out of: of others, though they be equal, nothing is kept.

    An object that is kept lives on, so that no other takes its number.
    """

    def __init__(self, most: int = MOST_KEPT) -> None:
        self._most = most
        self._kept: dict[tuple[int, ...], tuple[tuple[object, ...], T]] = {}

    def get(self, *objects: object) -> T | None:
        """Return what was worked out of these objects, None where nothing is kept."""
        found = self._kept.get(tuple(map(id, objects)))
        return None if found is None else found[1]

    def keep(self, value: T, *objects: object) -> T:
        """Keep and return what was worked out of these objects; where it gets too much, the oldest goes."""
        self._kept[tuple(map(id, objects))] = objects, value
        while len(self._kept) > self._most:
            self._kept.pop(next(iter(self._kept)), None)
        return value
