"""Saving on real PostgreSQL: numbers, siblings, constraints, and what two savers at once get."""

from concurrent.futures import ThreadPoolExecutor
from uuid import UUID, uuid4

import psycopg
import pytest

from examples import one_line
from leadsman.db.connection import Database
from leadsman.db.design import DesignRow, Page, count_designs, insert_design, select_designs
from leadsman.db.migrate import migrate, scripts
from leadsman.db.revision import (
    Saved,
    save,
    select_glance,
    select_head,
    select_headings,
    select_revision,
    update_glance,
)


def kept(database: Database) -> UUID:
    with database.transaction() as connection:
        design_id = insert_design(connection, one_line())
    assert design_id is not None
    return design_id


def test_a_saved_document_is_the_new_head_and_the_old_one_stays(database: Database) -> None:
    design_id = kept(database)
    changed = one_line(name="Changed")
    with database.transaction() as connection:
        assert save(connection, design_id, 1, changed) == Saved(2, "kept")
        head, first = select_head(connection, design_id), select_revision(connection, design_id, 1)
    assert head is not None
    assert first is not None
    assert (head.number, head.parent_number, head.document) == (2, 1, changed)
    assert first.document == one_line()


def test_a_stale_save_is_kept_as_a_sibling_and_the_head_stays(database: Database) -> None:
    design_id = kept(database)
    with database.transaction() as connection:
        save(connection, design_id, 1, one_line(name="Hers"))
        assert save(connection, design_id, 1, one_line(name="His")) == Saved(3, "sibling")
        head, sibling = select_head(connection, design_id), select_revision(connection, design_id, 3)
        headings = select_headings(connection, design_id)
        assert save(connection, design_id, 2, one_line(name="On")) == Saved(4, "kept")
    assert head is not None
    assert sibling is not None
    assert (head.number, head.document["name"]) == (2, "Hers")
    assert (sibling.standing, sibling.document["name"]) == ("sibling", "His")
    assert [heading.number for heading in headings] == [3, 2, 1]


def test_a_stale_save_of_what_stands_there_already_is_no_conflict(database: Database) -> None:
    """As when a page was left, its last save came through, and what the tab kept is saved once more."""
    with database.transaction() as connection:
        design_id = insert_design(connection, one_line(name="One"))
        assert design_id is not None
        assert save(connection, design_id, 1, one_line(name="Two")) == Saved(2, "kept")
        assert save(connection, design_id, 1, dict(reversed(one_line(name="Two").items()))) == Saved(2, "kept")
        assert save(connection, design_id, 1, one_line(name="two")) == Saved(3, "sibling")


def test_of_many_savers_at_once_one_wins_and_none_is_lost(database: Database) -> None:
    design_id = kept(database)

    def attempt(number: int) -> Saved | None:
        with database.transaction() as connection:
            return save(connection, design_id, 1, one_line(name=f"Saver {number}"))

    with ThreadPoolExecutor(8) as pool:
        outcomes = [saved for saved in pool.map(attempt, range(16)) if saved]
    assert sorted(saved.number for saved in outcomes) == list(range(2, 18))
    assert [saved.standing for saved in outcomes].count("kept") == 1
    with database.transaction() as connection:
        names = {select_revision(connection, design_id, n).document["name"] for n in range(2, 18)}  # type: ignore[union-attr]
    assert names == {f"Saver {number}" for number in range(16)}


def test_an_exception_undoes_the_whole_transaction(database: Database) -> None:
    design_id = kept(database)

    def half_a_save() -> None:
        with database.transaction() as connection:
            save(connection, design_id, 1, one_line(name="Half"))
            raise RuntimeError

    with pytest.raises(RuntimeError):
        half_a_save()
    with database.transaction() as connection:
        assert len(select_headings(connection, design_id)) == 1


def test_a_design_that_is_not_there_is_not_saved(database: Database) -> None:
    with database.transaction() as connection:
        assert save(connection, uuid4(), 1, one_line()) is None


def test_a_demo_is_loaded_once(database: Database) -> None:
    with database.transaction() as connection:
        assert insert_design(connection, one_line(), "ridge") is not None
        assert insert_design(connection, one_line(), "ridge") is None
        assert [row.demo_key for row in select_designs(connection, Page())] == ["ridge"]


def test_the_list_is_read_page_by_page_and_leaves_none_out(database: Database) -> None:
    with database.transaction() as connection:  # all of one moment: ids tell them apart
        made = [insert_design(connection, one_line(name=f"Plan {number}")) for number in range(5)]
        assert count_designs(connection) == 5
        seen: list[DesignRow] = []
        while page := select_designs(
            connection,
            Page(saved_before=seen[-1].saved_at if seen else None, after_id=seen[-1].id if seen else None, length=2),
        ):
            assert len(page) <= 2
            seen += page
    assert {row.id for row in seen} == set(made)
    assert len(seen) == 5
    assert {(row.site_name, row.findings, row.glance) for row in seen} == {("Tamsel Ridge", None, None)}
    assert sorted(row.name for row in seen) == [f"Plan {number}" for number in range(5)]


def test_how_a_revision_stands_is_kept_with_it_and_a_new_one_is_not_judged(database: Database) -> None:
    design_id = kept(database)
    with database.transaction() as connection:
        assert select_glance(connection, design_id, 1) is None
        update_glance(connection, design_id, 1, {"findings": 3}, 3)
        assert select_glance(connection, design_id, 1) == {"findings": 3}
        assert select_designs(connection, Page())[0].findings == 3
        save(connection, design_id, 1, one_line(name="Next"))
        (row,) = select_designs(connection, Page())
    assert (row.name, row.findings) == ("Next", None)


@pytest.mark.parametrize(
    ("statement", "constraint"),
    [
        ("UPDATE design SET head_number = 5", "design_head_is_a_past_number"),
        ("UPDATE revision SET standing = 'lost'", "revision_standing_known"),
        ("UPDATE revision SET parent_number = number", "revision_parent_is_earlier"),
        ("""UPDATE revision SET document = '{"format": "other"}'""", "revision_is_a_design"),
        ("DELETE FROM revision", "design_head_exists"),
        ("UPDATE revision SET findings = 2", "revision_judged_whole"),
    ],
)
def test_the_database_itself_refuses_what_cannot_be(database: Database, statement: str, constraint: str) -> None:
    kept(database)

    def attempt() -> None:
        with database.transaction() as connection:
            connection.execute(statement)

    with pytest.raises(psycopg.errors.IntegrityError) as refused:
        attempt()
    assert refused.value.diag.constraint_name == constraint


def test_migrations_are_applied_once_and_numbered_in_order(url: str) -> None:
    assert migrate(url) == []
    numbers = [int(script.name[:4]) for script in scripts()]
    assert numbers == list(range(1, len(numbers) + 1))
