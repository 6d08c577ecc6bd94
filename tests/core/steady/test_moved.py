"""A network of which only places and lines moved, made from the one before: as one made anew, whatever moved."""

import copy
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from bench.designs import comb, grid, tree
from hypothesis import given, settings
from hypothesis import strategies as st

from examples import WAVY, one_line, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.kept import Kept
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.held import Change, Holder
from leadsman.core.design.layout import Layout
from leadsman.core.physics.water import water_at
from leadsman.core.report.glimpse import glimpse_report
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import FRICTION, model_of
from leadsman.demo import tamsel_ridge

Document = dict[str, Any]
NAME = "a plan under a hand"
REDUCED = {
    "lines.0.points": [],
    "lines.0.inline": [{"kind": "reducer", "at_m": 60.0, "outlet_kpa": 20.0}, {"kind": "check_valve", "at_m": 2}],
}


def plain(design: Design) -> Document:
    document: Document = write_design(design)
    return document


def sucking() -> Document:
    """A comb whose first line is so thin that branches behind it suck."""
    document = comb(4, 3)
    document["lines"][0]["bore_mm"] = 45.0
    return plain(read_design(document))


PLANS: list[Any] = [
    pytest.param(plain(tree(40, 12)), id="a tree"),
    pytest.param(plain(grid(4)), id="loops"),
    pytest.param(plain(read_design(comb(3, 4))), id="a comb"),
    pytest.param(sucking(), id="branches that suck"),
    pytest.param(plain(tamsel_ridge()), id="the demonstration"),
    pytest.param(plain(read_design(worked_example())), id="the worked example"),
    pytest.param(plain(read_design(one_line(**REDUCED))), id="a reducer"),
    pytest.param(plain(read_design(one_line(**WAVY))), id="a wavy line"),
]
ARRAYS: dict[str, Callable[[NetworkModel], Any]] = {
    **{
        name: lambda model, name=name: getattr(model.along, name)  # type: ignore[misc]
        for name in ("link", "pipe_m", "area_m2", "passed", "passed_back", "behind_door", "share", "share_piece",
                     "share_starts", "shared", "inner", "forward")
    },
    **{
        name: lambda model, name=name: getattr(model.loader, name)  # type: ignore[misc]
        for name in ("floor_m", "air_m", "on_bore", "own", "settings", "law_scale", "first_reach")
    },
    **{
        name: lambda model, name=name: getattr(model.plumbing, name)  # type: ignore[misc]
        for name in ("piece_length_m", "piece_reach", "reaches", "segments", "line_nodes", "line_sign", "first_link")
    },
    "network": lambda model: [getattr(model.plumbing.network, name) for name in ("start", "end", "guess_m3s")],
    "points": lambda model: [(one.line_id, one.at_m, one.ground_m, one.pipe_m) for one in model.along.points],
}  # fmt: skip


def moved(document: Document, number: int, metres: float, cover_m: float) -> Change:
    """A place moved, its height and place on the plan, and a line, its length with its points; but for no cover."""
    place = copy.deepcopy(document["places"][number % len(document["places"])])
    place |= {"ground_m": place["ground_m"] + metres, "east_m": place.get("east_m", 0.0) + 3.0 * metres}
    line = copy.deepcopy(document["lines"][number % len(document["lines"])])
    longer = 1.0 + abs(metres) / 100.0
    if "length_m" in line:
        line["length_m"] *= longer
    for run in line.get("runs", []):
        run["length_m"] *= longer
    line["points"] = [[at * longer, ground + metres / 2.0] for at, ground in line.get("points", [])]
    for part in line.get("inline", []):
        part["at_m"] *= longer
    line["cover_m"] = cover_m
    parts = {"places": [(number % len(document["places"]), place)]}
    return Change({}, [], parts | ({"lines": [(number % len(document["lines"]), line)]} if cover_m else {}))


def applied(document: Document, change: Change) -> Document:
    after: Document = {key: value for key, value in {**document, **change.values}.items() if key not in change.gone}
    for kind, parts in change.parts.items():
        after[kind] = list(after[kind])
        for number, part in parts:
            after[kind][number] = part
    return after


def made_anew(design: Design) -> NetworkModel:
    return NetworkModel(Layout(design), water_at(design.site.water_c), FRICTION["darcy"])


MOVES = st.lists(
    st.tuples(st.integers(0, 99), st.floats(-6, 6), st.just(0.0) | st.floats(0.1, 1.2)), min_size=1, max_size=4
)


@pytest.mark.parametrize("document", PLANS)
@settings(max_examples=12)
@given(moves=MOVES)
def test_it_holds_the_same_numbers_and_finds_the_same_water(
    document: Document, moves: list[tuple[int, float, float]]
) -> None:
    holder = Holder()
    model = model_of(holder.hold(NAME, document))
    shared = model.plumbing.network
    for step, move in enumerate(moves, 1):
        change = moved(document, *move)
        document = applied(document, change)
        design = holder.change(NAME, step, change)
        assert design == read_design(document)
        assert design is not None
        model, expected = model_of(design), made_anew(design)
        if not model.plumbing.divided:
            assert model.plumbing.network is shared  # else it was made anew, and nothing is tried here
        for name, read in ARRAYS.items():
            told, wanted = read(model), read(expected)
            for one, other in zip(told, wanted, strict=True) if isinstance(told, list) else [(told, wanted)]:
                assert np.array_equal(one, other) if isinstance(one, np.ndarray) else one == other, name
        here, there = (Analysis(design, together_only=True) for _ in range(2))
        here.__dict__["model"], there.__dict__["model"] = model, expected
        assert here.state.converged == there.state.converged
        for outlet in design.outlets:
            flow = there.answer(outlet).judged_flow_m3s
            assert here.answer(outlet).judged_flow_m3s == pytest.approx(flow, rel=1e-4, abs=1e-8)
            assert here.answer(outlet).state == there.answer(outlet).state
        assert [one.code for one in glimpse_report(here, None).findings] == [
            one.code for one in glimpse_report(there, None).findings
        ]


def test_air_enters_where_it_would_though_more_is_opened_and_leaves_when_the_tank_is_back() -> None:
    document = plain(read_design(comb(6, 4)))
    holder = Holder()
    holder.hold(NAME, document)
    sucks: list[int] = []
    for step, length_m in enumerate((61.0, 400.0, 900.0, 1500.0, 900.0, 400.0, 61.0), 1):
        line = {**document["lines"][0], "length_m": length_m, "bore_mm": 60.0}
        design = holder.change(NAME, step, Change({}, [], {"lines": [(0, line)]}))
        assert design is not None
        seen, expected = Analysis(design, together_only=True), Analysis(design, together_only=True)
        expected.__dict__["model"] = made_anew(design)
        assert [one.point for one in seen.state.solved.suctions] == [
            one.point for one in expected.state.solved.suctions
        ]
        sucks.append(len(seen.state.solved.suctions))
        for outlet in design.outlets:
            flow = expected.answer(outlet).judged_flow_m3s
            assert seen.answer(outlet).judged_flow_m3s == pytest.approx(flow, rel=1e-4, abs=1e-8)
    assert sucks == sucks[::-1]
    assert max(sucks) > 3
    assert sucks[0] == 0


NOT_JUST_MOVED: list[Any] = [
    ("another bore", "lines", 0, {"bore_mm": 30.0}),
    ("another end", "lines", 0, {"to": "nursery"}),
    ("a pump", "lines", 1, {"pump": {"flow_lpm": 12.0}}),
    ("a draw", "places", 1, {"draw_lpm": 3.0}),
    ("another valve", "outlets", 2, {"shut": False}),
    ("a higher stand", "vessels", 0, {"stand_m": 1.5}),
]


@pytest.mark.parametrize(("_", "kind", "number", "figures"), NOT_JUST_MOVED)
def test_where_more_than_that_changed_it_is_made_anew(_: str, kind: str, number: int, figures: Document) -> None:
    document = plain(read_design(worked_example()))
    holder = Holder()
    before = model_of(holder.hold(NAME, document))
    part = {**document[kind][number], **figures}
    if kind == "lines" and "bore_mm" in figures:
        part.pop("product", None)
    change = Change({}, [], {kind: [(number, part)]})
    design = holder.change(NAME, 1, change)
    assert design == read_design(applied(document, change))
    assert design is not None
    assert before.moved_to(design) is None
    expected = made_anew(design)
    for name, read in ARRAYS.items():
        if name not in ("network", "reaches", "segments"):
            assert np.array_equal(read(model_of(design)), read(expected)), name


def test_what_is_kept_is_kept_by_the_very_objects_and_the_oldest_goes() -> None:
    kept: Kept[str] = Kept(most=2)
    one, like_it = ["a"], ["a"]
    assert kept.get(one) is None
    assert kept.keep("first", one) == "first"
    assert (kept.get(one), kept.get(like_it), kept.get(one, one)) == ("first", None, None)
    kept.keep("second", like_it)
    kept.keep("third", one, like_it)
    assert (kept.get(one), kept.get(like_it), kept.get(one, like_it)) == (None, "second", "third")
