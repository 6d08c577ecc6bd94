"""What is removed with time, against the rule written another way; and what never is."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import psycopg
import pytest

from examples import one_line
from leadsman.db.connection import Database
from leadsman.db.design import insert_design, update_deleted
from leadsman.db.revision import Saved, save, select_head, update_label
from leadsman.db.tidy import LOCK_KEY, Removed, tidy

Kept = tuple[int, int | None]


def plan_of(database: Database, ages: list[timedelta], late: frozenset[int], labelled: frozenset[int]) -> UUID:
    """A plan whose revisions have these ages, oldest first; of `late` are those saved from the one before the head."""
    with database.transaction() as connection:
        design_id = insert_design(connection, one_line())
        assert design_id is not None
        head = 1
        for number in range(2, len(ages) + 1):
            base = head - 1 if number in late and head > 1 else head
            saved = save(connection, design_id, base, one_line(name=f"Save {number}"))
            assert saved is not None
            head = number if saved.standing == "kept" else head
        for number in labelled:
            update_label(connection, design_id, number, "before the trench")
        now = datetime.now(UTC)
        for number, age in enumerate(ages, 1):
            connection.execute(
                "UPDATE revision SET saved_at = %s WHERE design_id = %s AND number = %s", (now - age, design_id, number)
            )
    return design_id


def kept(database: Database, design_id: UUID) -> list[Kept]:
    with database.transaction() as connection:
        return connection.execute(
            "SELECT number, parent_number FROM revision WHERE design_id = %s ORDER BY number", (design_id,)
        ).fetchall()


def rows(database: Database, design_id: UUID) -> list[dict[str, Any]]:
    with database.transaction() as connection:
        cursor = connection.execute(
            "SELECT number, parent_number, standing, label, saved_at FROM revision WHERE design_id = %s",
            (design_id,),
        )
        return [dict(zip(("number", "parent", "standing", "label", "at"), row, strict=True)) for row in cursor]


def by_the_rule(found: list[dict[str, Any]], head: int) -> set[int]:
    """The rule again, one revision after the other from the newest on."""
    now = datetime.now(UTC)
    edited_beside = {one["parent"] for one in found if one["standing"] == "sibling"}
    seen: set[object] = set()
    stay = set()
    for one in sorted(found, key=lambda row: -row["number"]):
        at, age = one["at"].astimezone(UTC), now - one["at"]
        if age < timedelta(days=14):
            slot: object = ("hour", at.date(), at.hour)
        elif age < timedelta(days=91):
            slot = ("day", at.date())
        else:
            slot = ("week", at.isocalendar()[:2])
        first_seen = one["standing"] == "sibling" or slot not in seen
        if one["standing"] == "kept":
            seen.add(slot)
        always = one["number"] in (1, head) or one["label"] or one["number"] in edited_beside
        if always or first_seen or age < timedelta(days=2):
            stay.add(one["number"])
    return stay


@pytest.mark.parametrize("seed", range(6))
def test_a_plan_of_many_months_is_thinned_by_the_rule(database: Database, seed: int) -> None:
    dice = random.Random(seed)
    sittings = [dice.choice([0.5, 3, 12, 40, 80, 200, 700]) * dice.random() for _ in range(12)]
    days = sorted((dice.choice(sittings) + dice.random() * 0.1 for _ in range(90)), reverse=True)
    late = frozenset(dice.sample(range(3, 90), 6))
    labelled = frozenset(dice.sample(range(2, 90), 4))
    design_id = plan_of(database, [timedelta(days=one) for one in days], late, labelled)
    before = rows(database, design_id)
    with database.transaction() as connection:
        head = select_head(connection, design_id)
    assert head is not None
    with database.transaction() as connection:
        removed = tidy(connection)
    left = kept(database, design_id)
    assert {number for number, _ in left} == by_the_rule(before, head.number)
    assert removed == Removed(plans=0, revisions=90 - len(left))
    assert 5 < len(left) < 80
    numbers = [number for number, _ in left]
    parents = {one["number"]: one["parent"] for one in before}
    for number, parent in left[1:]:  # its parent, or the nearest one before that which is left
        assert parent == max(one for one in numbers if one <= parents[number])
    with database.transaction() as connection:
        assert tidy(connection) == Removed(plans=0, revisions=0)
        assert select_head(connection, design_id) == head


def test_a_plan_is_saved_on_from_a_revision_that_was_thinned_out(database: Database) -> None:
    design_id = plan_of(database, [timedelta(days=400, minutes=-one) for one in range(5)], frozenset(), frozenset())
    with database.transaction() as connection:
        tidy(connection)
        assert save(connection, design_id, 3, one_line(name="From a tab left open")) == Saved(6, "sibling")
    assert kept(database, design_id) == [(1, None), (5, 1), (6, 1)]


def test_deleted_plans_go_after_thirty_days_and_not_before(database: Database, url: str) -> None:
    old, young, used = (plan_of(database, [timedelta()], frozenset(), frozenset()) for _ in range(3))
    with database.transaction() as connection:
        for design_id, days in ((old, 30.1), (young, 29.9)):
            update_deleted(connection, design_id, True)
            connection.execute(
                "UPDATE design SET deleted_at = now() - make_interval(secs => %s) WHERE id = %s",
                (days * 86_400.0, design_id),
            )
        assert tidy(connection) == Removed(plans=1, revisions=0)
    with psycopg.connect(url) as connection:
        left = {row[0] for row in connection.execute("SELECT id FROM design")}
    assert left == {young, used}


def test_one_tidies_at_a_time(database: Database, url: str) -> None:
    with psycopg.connect(url) as other, database.transaction() as connection:
        other.execute("SELECT pg_advisory_xact_lock(%s)", (LOCK_KEY,))
        assert tidy(connection) is None
