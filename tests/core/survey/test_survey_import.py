"""What a file makes of a design, on the site's plane: who is who, what is new, and what stays as it was."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.survey.survey_file import Area, FilePoint, SurveyFile, Walk, checked
from leadsman.core.survey.survey_import import NEW, SKIP, Choices, free_id, import_plan

SITE = Choices(source="walk", datum="site", error_m=0.5)


def farm(**more: object) -> Design:
    return read_design(one_line(**more))


def made(design: Design, survey: SurveyFile, choices: Choices = SITE) -> Document:
    plan = import_plan(design, survey, choices)
    assert plan.document is not None, plan.questions
    document: Document = write_design(plan.document)
    return document


def local(**things: object) -> SurveyFile:
    return SurveyFile(format="table", system="local", **things)  # type: ignore[arg-type]


# (spot, what it is taken for, why): one_line has `top` at 0, 0 and `end` at 200, 0, both without names
TAKEN: list[tuple[FilePoint, str, str]] = [
    (FilePoint(name="top", x=500.0, y=500.0, height_m=119.0), "top", "of the same name"),
    (FilePoint(name="END", x=500.0, y=500.0, height_m=119.0), "end", "of the same name"),
    (FilePoint(name="x", x=500.0, y=500.0, height_m=119.0, part_id="end"), "end", "of the same name"),
    (FilePoint(name="x", x=9.9, y=0.0, height_m=119.0), "top", "at the same spot"),
    (FilePoint(name="x", x=10.1, y=0.0, height_m=119.0), NEW, "no place there"),
    (FilePoint(name="x", x=10.1, y=0.0), SKIP, "it has no height"),
]


@pytest.mark.parametrize(("spot", "of", "why"), TAKEN)
def test_a_spot_is_taken_for_a_place_by_its_id_its_name_or_where_it_lies(spot: FilePoint, of: str, why: str) -> None:
    (one,) = import_plan(farm(), local(spots=[spot]), SITE).spots
    assert (one.of, one.why) == (of, why)


def test_a_place_is_taken_once_and_the_user_has_the_last_word() -> None:
    survey = local(
        spots=[
            FilePoint(name="a", x=1.0, y=0.0, height_m=119.0),
            FilePoint(name="b", x=2.0, y=0.0, height_m=119.2),
            FilePoint(name="top", x=3.0, y=0.0, height_m=119.4),
        ]
    )
    assert [spot.of for spot in import_plan(farm(), survey, SITE).spots] == ["top", NEW, NEW]
    said = Choices(source="walk", datum="site", error_m=0.5, spots={0: SKIP, 1: "end", 2: NEW})
    document = made(farm(), survey, said)
    assert [place["id"] for place in document["places"]] == ["top", "end", "top-2"]
    assert [(sight["place"], sight["height_m"]) for sight in document["sights"]] == [("end", 119.2), ("top-2", 119.4)]


def test_what_is_matched_keeps_its_ground_and_gains_a_way() -> None:
    document = made(farm(), local(spots=[FilePoint(name="top", x=0.0, y=0.0, height_m=119.3)]))
    assert document["places"] == one_line()["places"]
    (sight,) = document["sights"]
    assert sight == {"id": "walk-top", "kind": "satellite", "place": "top", "height_m": 119.3, "error_m": 0.5,
                     "source": "walk", "datum": "site"}  # fmt: skip


def test_a_new_place_has_the_files_height_its_error_and_where_it_comes_from() -> None:
    document = made(farm(), local(spots=[FilePoint(name="Old Spring!", x=50.12345, y=-20.0, height_m=131.0)]))
    place = document["places"][-1]
    assert (place["id"], place["name"], place["east_m"], place["north_m"]) == (
        "old-spring",
        "Old Spring!",
        50.123,
        -20.0,
    )
    assert (place["ground_m"], place["height_error_m"], place["height_from"]) == (131.0, 0.5, "walk")


AREA = Area(name="Long field", corners=[(0.0, 0.0), (80.0, 0.0), (80.0, 40.0)])


def test_areas_become_paddocks_watered_by_the_nearest_outlet_or_move_the_corners_of_their_own() -> None:
    document = made(farm(), local(areas=[AREA]))
    (paddock,) = document["paddocks"]
    assert (paddock["id"], paddock["outlet"]) == ("long-field", "valve")
    again = read_design({**one_line(), "paddocks": [{"id": "p", "name": "long FIELD", "outlet": "valve"}]})
    moved = made(again, local(areas=[AREA]))
    assert moved["paddocks"] == [{"id": "p", "name": "long FIELD", "outlet": "valve",
                                  "corners": [[0.0, 0.0], [80.0, 0.0], [80.0, 40.0]]}]  # fmt: skip
    assert "paddocks" not in made(farm(), local(areas=[AREA]), Choices(source="walk", datum="site", areas={0: SKIP}))
    bare = ("format", "version", "name", "site", "places")
    dry = read_design({key: value for key, value in one_line().items() if key in bare})
    assert [area.of for area in import_plan(dry, local(areas=[AREA]), SITE).areas] == [SKIP]


def test_a_walk_is_taken_for_the_line_whose_ends_it_comes_near() -> None:
    near: list[tuple[float, float, float | None]] = [(float(x), 30.0, 120.0 - x / 10.0) for x in range(0, 201, 20)]
    far: list[tuple[float, float, float | None]] = [(x, 45.0, h) for x, _, h in near]
    design = farm()
    plan = import_plan(
        design,
        local(walks=[Walk(name="near", points=near), Walk(name="again", points=near), Walk(name="far", points=far)]),
        Choices(source="walk"),
    )
    assert [(walk.of, walk.why) for walk in plan.walks] == [
        ("line", "along the same way"), (SKIP, "no line along it"), (SKIP, "no line along it")]  # fmt: skip
    flat: list[tuple[float, float, float | None]] = [(x, y, None) for x, y, _ in near]
    assert (
        import_plan(design, local(walks=[Walk(name="flat", points=flat)]), Choices(source="walk")).walks[0].why
        == "it has no heights"
    )
    chosen = import_plan(design, local(walks=[Walk(name="far", points=far)]), Choices(source="walk", walks={0: "line"}))
    assert [walk.of for walk in chosen.walks] == ["line"]
    with pytest.raises(OutOfRange, match="stood"):
        import_plan(
            design,
            local(walks=[Walk(name="stood", points=[(1.0, 1.0, 5.0)] * 9)]),
            Choices(source="walk", walks={0: "line"}),
        )


def test_a_walk_that_says_what_the_line_has_already_changes_nothing() -> None:
    document = one_line()
    document["lines"][0]["points"] = [[0, 120], [105, 112.5], [210, 101]]
    design = read_design(document)
    walk = Walk(name="line", points=[(0.0, 0.0, 120.0), (100.0, 0.0, 112.5), (200.0, 0.0, 101.0)], part_id="line")
    plan = import_plan(design, local(walks=[walk]), SITE)
    assert plan.changes == []
    assert plan.document == design


@pytest.mark.parametrize(
    ("survey", "code"),
    [
        (local(), "empty"),
        (local(spots=[FilePoint(name="a", x=0.0, y=0.0, height_m=1.7e9)]), "no_height"),
        (local(spots=[FilePoint(name="a", x=0.0, y=0.0, height_m=float("nan"))]), "no_height"),
        (local(spots=[FilePoint(name="a", x=float("nan"), y=0.0)]), "too_far"),
        (SurveyFile(format="x", system="wgs84", spots=[FilePoint(name="a", x=0.0, y=91.0)]), "off_the_globe"),
        (SurveyFile(format="x", system="wgs84", spots=[FilePoint(name="a", x=float("inf"), y=0.0)]), "off_the_globe"),
        (SurveyFile(format="x", system=None, walks=[Walk(name="w", points=[(1e9, 0.0, None)])]), "too_far"),
    ],
)
def test_numbers_that_cannot_be_what_they_say_are_refused(survey: SurveyFile, code: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        checked(survey)
    assert refused.value.faults[0].code == code


@given(st.text(max_size=80), st.sets(st.sampled_from(["point", "a", "a-2", "knoll"])))
def test_every_name_makes_an_id_that_is_allowed_and_free(name: str, taken: set[str]) -> None:
    made_id = free_id(taken, name)
    assert made_id not in taken
    document = one_line()
    document["places"].append({"id": f"x{made_id}"[:64], "east_m": 0, "north_m": 0, "ground_m": 1})
    read_design(document)
