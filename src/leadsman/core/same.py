"""A key for what has been worked out of a part of the document: that very object, not one like it."""

from typing import Generic, TypeVar

T = TypeVar("T")


class Same(Generic[T]):
    """One object as a key. Parts of a document never change, so what follows from one alone may be kept by it."""

    __slots__ = ("it",)

    def __init__(self, it: T) -> None:
        self.it = it

    def __hash__(self) -> int:
        return id(self.it)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Same) and self.it is other.it
