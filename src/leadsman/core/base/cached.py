"""A property, and a function of one object, that are worked out once for each object.

In Python 3.11 the library's `cached_property` holds one lock for all objects of a class while it works: a preview would
wait until the whole analysis of another plan is done. Here nothing is locked; where two threads ask one object at the
same time, both work it out, and to the same value.
"""

from collections.abc import Callable
from functools import wraps
from typing import Any, Generic, Self, TypeVar, overload
from weakref import WeakKeyDictionary

T = TypeVar("T")
Of = TypeVar("Of")


class cached_property(Generic[T]):  # noqa: N801 - used as the library's is
    """Decorates a method without arguments; its value is kept in the object."""

    def __init__(self, compute: Callable[[Any], T]) -> None:
        self._compute, self._name = compute, compute.__name__
        self.__doc__ = compute.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    @overload
    def __get__(self, instance: None, owner: type) -> Self: ...

    @overload
    def __get__(self, instance: object, owner: type) -> T: ...

    def __get__(self, instance: object | None, owner: type) -> Self | T:
        if instance is None:
            return self
        value = self._compute(instance)
        vars(instance)[self._name] = value
        return value


def once_for_each(compute: Callable[[Of], T]) -> Callable[[Of], T]:
    """Decorate a function of one object: its value is kept for as long as the object lives."""
    found: WeakKeyDictionary[Of, T] = WeakKeyDictionary()

    @wraps(compute)
    def once(of: Of) -> T:
        if of not in found:
            found[of] = compute(of)
        return found[of]

    return once
