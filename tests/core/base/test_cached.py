"""A property worked out once for each object, and by one object whatever another is at; a function of one object."""

import gc
import weakref
from threading import Event, Thread

import pytest

from leadsman.core.base.cached import cached_property, once_for_each


class Plan:
    """An object whose property takes as long as somebody says."""

    def __init__(self, go_on: Event) -> None:
        self.go_on, self.begun, self.times = go_on, Event(), 0

    @cached_property
    def answer(self) -> int:
        """What takes long."""
        self.times += 1
        self.begun.set()
        self.go_on.wait(10.0)
        return self.times


def test_a_value_is_worked_out_once_for_each_object() -> None:
    go_on = Event()
    go_on.set()
    one, other = Plan(go_on), Plan(go_on)
    assert [one.answer, one.answer, other.answer] == [1, 1, 1]
    assert (one.times, other.times) == (1, 1)
    assert Plan.answer.__doc__ == "What takes long."


def test_no_object_waits_for_another() -> None:
    held, free = Plan(Event()), Plan(Event())
    free.go_on.set()
    worker = Thread(target=lambda: held.answer, daemon=True)
    worker.start()
    assert held.begun.wait(10.0)
    quick = Thread(target=lambda: free.answer, daemon=True)
    quick.start()
    quick.join(5.0)
    assert not quick.is_alive()
    assert worker.is_alive()
    held.go_on.set()
    worker.join(10.0)
    assert held.answer == 1


class Asked:
    """Counts how often it is asked."""

    times = 0


@once_for_each
def ponds(of: Asked) -> list[int]:
    """The ponds."""
    of.times += 1
    return [of.times]


def test_a_function_of_one_object_is_worked_out_once_and_lets_the_object_go() -> None:
    plan, other = Asked(), Asked()
    assert ponds(plan) is ponds(plan)
    assert ponds(plan) is not ponds(other)
    assert (plan.times, ponds.__doc__) == (1, "The ponds.")
    gone = weakref.ref(plan)
    del plan
    gc.collect()
    assert gone() is None


def test_what_fails_is_tried_again() -> None:
    @once_for_each
    def refused(of: Asked) -> int:
        of.times += 1
        if of.times == 1:
            raise ValueError("not yet")
        return of.times

    plan = Asked()
    with pytest.raises(ValueError, match="not yet"):
        refused(plan)
    assert refused(plan) == refused(plan) == 2
