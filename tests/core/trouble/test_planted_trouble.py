"""Troubleshooting against faults that the tests plant: who is without water is found by walking the tree of pipes."""

import random
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import pytest

import planted
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.wording import plain
from leadsman.core.calibration.fit import calibrated
from leadsman.core.design.file import read_design
from leadsman.core.report.base import spoken
from leadsman.core.report.trouble import TroubleReport, trouble_report
from leadsman.core.trouble.cause import causes, named
from leadsman.core.trouble.kinds import KINDS, SYMPTOMS, Symptom
from properties import seeds
from systems import judged as analysed

MISTAKEN, CANNOT_TELL = 0.05, 0.08  # of the answers
MOST_CHECKS = 25


@dataclass(frozen=True)
class Truth:
    """What is wrong, and how the line answers: whether an outlet runs, and what a look at a part shows."""

    cause: str
    runs: Callable[[str], str]


def downstream(made: planted.Farm, pipe: str) -> set[str]:
    return {outlet for outlet in made.kv_m3h if pipe in made.way(outlet)}


def plant(chance: random.Random) -> tuple[Analysis, Symptom, str, Truth]:
    """A farm, the trough at which the trouble shows, and what is behind it."""
    made = planted.made_up(chance)
    document = planted.document_of(made)
    for pipe in document["lines"]:
        pipe["inline"] = [{"kind": "isolating_valve", "at_m": 1.0}, {"kind": "filter", "at_m": 2.0}]
    outlets = sorted(made.kv_m3h)
    kind = chance.choice(("tap_shut", "filter", "kinked", "leak", "seat", "float_up", "store_empty"))
    if kind in ("seat", "float_up"):
        outlet = chance.choice(outlets)
        cause, short = f"{kind}:{outlet}", {outlet}
    elif kind == "store_empty":
        outlet, cause, short = chance.choice(outlets), "store_empty:tank", set(outlets)
    else:
        pipe = chance.choice(sorted(made.pipes))
        short = downstream(made, pipe)
        outlet = chance.choice(sorted(short))
        cause = f"{kind}:{pipe}" + {"tap_shut": ":1", "filter": ":2"}.get(kind, "")
    symptom: Symptom = chance.choice(("low", "slow", "nothing")) if kind != "float_up" else "low"
    weak = "weak" if symptom == "slow" else "nothing"
    truth = Truth(cause=cause, runs=lambda other: weak if other in short else "well")
    return Analysis(read_design(document)), symptom, outlet, truth


def answered(check_id: str, truth: Truth, offered: list[str], chance: random.Random) -> str:
    if chance.random() < CANNOT_TELL:
        return "unknown"
    if chance.random() < MISTAKEN:
        return chance.choice(offered)
    kind, _, of = check_id.partition(":")
    if kind == "runs":
        return truth.runs(of)
    at_valve = truth.cause.startswith("float_up:") and of.startswith("seat:") and of.endswith(truth.cause[9:])
    return "yes" if of == truth.cause or at_valve else "no"


def with_animals(document: dict[str, Any]) -> dict[str, Any]:
    document["herds"] = [
        {"id": f"herd-{outlet['id']}", "class": "goats", "head": 20, "intake_lpd": 30.0, "outlet": outlet["id"]}
        for outlet in document["outlets"]
    ]
    return document


def followed(seed: int) -> tuple[str, TroubleReport, int]:
    """Look wherever one is sent, until the cause is told; the truth, the end, and how many looks it took."""
    chance = random.Random(seed)
    analysis, symptom, outlet, truth = plant(chance)
    answers: dict[str, str] = {}
    told = trouble_report(analysis, symptom, outlet, answers, None)
    while not told.found and told.next is not None and len(answers) < MOST_CHECKS:
        offered = [answer.id for answer in told.next.answers]
        answers[told.next.id] = answered(told.next.id, truth, offered, chance)
        told = trouble_report(analysis, symptom, outlet, answers, None)
    return truth.cause, told, len(answers)


def test_the_planted_fault_is_found_in_nine_of_ten_by_few_looks() -> None:
    ends = [followed(seed) for seed in seeds(0, 210)]
    assert len(ends) >= 60
    right = [(cause, told.causes[0].id) for cause, told, _ in ends if told.causes[0].id == cause]
    assert len(right) >= 0.9 * len(ends), [(cause, told.causes[0].id) for cause, told, _ in ends]
    looks = sorted(count for _, _, count in ends)
    possible = 25  # as many as there are causes on such a farm, and more
    assert looks[len(looks) // 2] <= possible / 3


@pytest.mark.parametrize("symptom", SYMPTOMS)
def test_each_symptom_has_causes_that_can_be_looked_at_named_and_mended(symptom: Symptom) -> None:
    document = with_animals(planted.document_of(planted.made_up(random.Random(5))))
    document["lines"][1]["inline"] = [{"kind": "tap_point", "at_m": 2.0}, {"kind": "drain", "at_m": 5.0}]
    document["inflows"] = [{"id": "well", "kind": "pump", "fills": "tank", "flow_lpm": 20.0, "hours_per_day": 4.0}]
    told = trouble_report(analysed(document), symptom, "well" if symptom == "pump" else "valve-0", {}, None)
    assert len(told.causes) >= 2
    assert 0.4 < sum(one.likely for one in told.causes) <= 1.0 + 1e-9
    assert told.next is not None
    assert all(one.mend and one.prevent and spoken(one.told) for one in told.causes)


def test_every_kind_has_one_gap_for_its_part_and_stands_behind_some_symptom() -> None:
    for name, kind in KINDS.items():
        assert kind.told.count("{}") == kind.look.count("{}") == 1, name
        assert kind.weights, name
        assert set(kind.weights) <= set(SYMPTOMS), name


def test_the_answers_weigh_the_same_in_any_order_and_what_there_is_not_is_refused() -> None:
    analysis, symptom, outlet, _ = plant(random.Random(3))
    answers: dict[str, str] = {}
    for _ in range(5):
        told = trouble_report(analysis, symptom, outlet, answers, None)
        assert told.next is not None
        answers[told.next.id] = "no" if told.next.id.startswith("look") else "well"
    ways = [dict(sorted(answers.items())), dict(sorted(answers.items(), reverse=True))]
    one, other = ({c.id: c.likely for c in trouble_report(analysis, symptom, outlet, way, None).causes} for way in ways)
    assert one == pytest.approx(other)
    for wrong in ({"look:nothing": "yes"}, {next(iter(answers)): "perhaps"}):
        with pytest.raises(UnknownName):
            trouble_report(analysis, symptom, outlet, wrong, None)
    with pytest.raises(UnknownName):
        trouble_report(analysis, "pump", outlet, {}, None)  # no pump is on the plan


def test_the_tap_that_is_shut_leaves_the_fewest_without_and_their_water_is_counted() -> None:
    document = with_animals(planted.document_of(planted.made_up(random.Random(5))))
    lines = {one["id"]: one for one in document["lines"]}
    taps = {"main-0": (1.0,), "main-1": (), "spur-0": (2.0, 4.0), "spur-1": ()}
    for name, at_m in taps.items():
        lines[name]["inline"] = [{"kind": "isolating_valve", "at_m": one} for one in at_m]
    analysis = analysed(document)
    own = trouble_report(analysis, "overflow", "valve-0", {}, None)
    assert spoken(own.shut) == "Shut the tap of spur-0 at 4 m. Without water then: valve-0, 20 animals."
    # 2.0 by 0.5 m, shut at 0.5 m: 500 L for 20 animals of 30 L a day
    assert spoken(own.lasts[0]) == "20 animals at trough-valve-0: a full trough lasts them 20.0 hours."
    assert spoken(own.standby).startswith("Standby: a tote of 1000 L on a trailer lasts them 40.0 hours")
    other = trouble_report(analysis, "overflow", "valve-1", {}, None)
    everybody = sorted(one["id"] for one in document["outlets"])
    assert f"tap of main-0 at 1 m. Without water then: {', '.join(everybody)}" in spoken(other.shut)


def test_readings_that_accuse_a_line_put_what_sits_in_it_first() -> None:
    for seed in range(1, 40, 5):  # blocked lines
        made, kind, part, taken = planted.planted(seed)
        assert kind == "blocked"
        analysis = Analysis(read_design(planted.document_of(made)))
        outlet = sorted(downstream(made, part))[0]
        before = trouble_report(analysis, "slow", outlet, {}, None)
        after = trouble_report(analysis, "slow", outlet, {}, calibrated(analysis, taken))
        assert after.causes[0].part == part
        assert "The last readings" in spoken(after.readings)
        assert before.readings == []


def test_a_part_is_named_with_its_place_along_the_line() -> None:
    analysis, *_ = plant(random.Random(1))
    found = next(one for one in causes(analysis, "low", "valve-0") if one.kind == "filter")
    assert plain(named(analysis, found)).endswith(" at 2 m")
