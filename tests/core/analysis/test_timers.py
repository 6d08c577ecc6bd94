"""Timers of drip zones: when they run, what they starve, and starts at which nothing goes short."""

from collections.abc import Iterator

import jsonpatch
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.timers import Watch
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Timer
from leadsman.core.design.file import read_design
from leadsman.core.farm.watering_spells import Spell
from leadsman.core.findings.registry import judge
from properties import examples


def zone(name: str, flow_lpm: float) -> Document:
    return {"id": name, "place": "end", "kind": "fixed", "flow_lpm": flow_lpm, "min_pressure_kpa": 5}


def timed(
    *timers: tuple[str, list[str]], flows: tuple[float, ...] = (30.0, 24.0), changes: Document | None = None
) -> Document:
    """One line whose end feeds the trough and two drip zones; animals drink from 6 to 20 o'clock."""
    return one_line(**{
        "lines.0.to": "end", "requirements.0.flow_lpm": 25, "requirements.0.refill_min": None,
        **{f"outlets.{i}": zone(f"z{i}", flow) for i, flow in enumerate(flows, 1)},
        "crops": [{"id": f"c{i}", "outlet": f"z{i}", "minutes_per_day": 30.0 * i} for i in range(1, len(flows) + 1)],
        "timers": [{"id": f"t{i}", "starts": at, "crops": crops} for i, (at, crops) in enumerate(timers, 1)],
        **(changes or {}),
    })  # fmt: skip


def analysis_of(document: Document) -> Analysis:
    return Analysis(read_design(document))


def test_zones_of_one_timer_run_one_after_the_other_for_as_long_as_they_need() -> None:
    by_litres = {"id": "c2", "outlet": "z2", "litres_lpd": 480.0}
    analysis = analysis_of(timed(("21:50", ["c1", "c2"]), changes={"crops.1": by_litres}))
    spells = [(one.part_id, one.since, one.until) for one in analysis.timer_runs[0][1]]
    assert spells == [("c1", 1310.0, 1340.0), ("c2", 1340.0, pytest.approx(1360.0))]  # 480 L at 24 L/min


def test_a_crop_on_two_timers_has_half_from_each() -> None:
    analysis = analysis_of(timed(("01:00", ["c2"]), ("03:00", ["c2"])))
    assert [spells[0].until - spells[0].since for _, spells in analysis.timer_runs] == [30.0, 30.0]


@pytest.mark.parametrize(
    ("timers", "flows", "starved"),
    [
        ([("02:00", ["c1"]), ("03:00", ["c2"])], (30.0, 24.0), set()),  # at night, apart
        ([("12:00", ["c1"])], (30.0, 24.0), {"valve"}),  # while they drink
        ([("12:00", ["c1"])], (2.0, 24.0), set()),  # so little that the trough does not mind
        ([("02:00", ["c1"]), ("02:15", ["c2"])], (30.0, 30.0), {"z1", "z2"}),  # each other
        ([("23:45", ["c1"]), ("00:05", ["c2"])], (30.0, 30.0), {"z1", "z2"}),  # over midnight
        ([("02:00", ["c1", "c2"])], (30.0, 30.0), set()),  # the same two on one timer
    ],
)
def test_who_goes_short(timers: list[tuple[str, list[str]]], flows: tuple[float, ...], starved: set[str]) -> None:
    analysis = analysis_of(timed(*timers, flows=flows))
    assert {clash.outlet for clash in analysis.timer_clashes} == starved


def test_a_clash_is_told_with_its_time_and_what_is_got() -> None:
    analysis = analysis_of(timed(("12:00", ["c1"])))
    (clash,) = analysis.timer_clashes
    assert (clash.since, clash.until, clash.crops, clash.timers) == (720.0, 750.0, ("c1",), ("t1",))
    together = analysis_of(timed(("12:00", ["c1"]), changes={"outlets.2.shut": True})).state.outlets["valve"].flow_m3s
    assert clash.gets_m3s == pytest.approx(together)
    assert clash.gets_m3s < clash.wanted_m3s == pytest.approx(25 / 60_000)


@pytest.mark.parametrize(
    "timers",
    [[("12:00", ["c1"])], [("12:00", ["c1", "c2"]), ("13:00", ["c1"])], [("02:00", ["c1"]), ("02:15", ["c2"])]],
)
def test_the_starts_that_are_offered_starve_nothing(timers: list[tuple[str, list[str]]]) -> None:
    document = timed(*timers, flows=(30.0, 30.0))
    found = [finding for finding in judge(analysis_of(document)) if finding.code == "timers-clash"]
    assert found
    for finding in found:
        (remedy,) = finding.remedies
        after = analysis_of(jsonpatch.apply_patch(document, remedy.patch))
        assert after.timer_clashes == []
        assert not any(one.code == "timers-clash" for one in judge(after))


def test_where_no_start_helps_none_is_offered() -> None:
    # the zone takes all there is and runs all day, and animals drink by day
    document = timed(("06:00", ["c1"]), changes={"crops.0.minutes_per_day": 1440.0}, flows=(30.0, 30.0))
    found = [finding for finding in judge(analysis_of(document)) if finding.code == "timers-clash"]
    assert found
    assert found[0].remedies == []


def test_what_is_watered_stands_in_the_hours_of_its_timer() -> None:
    late = timed(("23:30", ["c1"]), changes={"herds": [], "crops.0.minutes_per_day": 60.0}, flows=(24.0,))
    hours = analysis_of(late).hours_of_cases["day"]
    assert hours[23] == hours[0] == pytest.approx(30 * 24.0)
    assert sum(hours) == pytest.approx(60 * 24.0)


@given(
    st.lists(st.tuples(st.integers(0, 1439), st.floats(1.0, 1500.0)), min_size=1, max_size=4),
    st.lists(st.tuples(st.integers(0, 1439), st.floats(1.0, 700.0)), max_size=3),
)
@examples(60)
def test_spells_are_told_apart_as_minute_by_minute(
    zones: list[tuple[int, float]], drinking: list[tuple[int, float]]
) -> None:
    """Which zones run and which floats call at once, against asking every minute of the day."""
    asked: set[tuple[frozenset[str], frozenset[str]]] = set()

    class Recorded(Watch):
        def __init__(self) -> None:
            self.outlets = {f"z{i}": None for i in range(4)} | {f"f{i}": None for i in range(3)}  # type: ignore[assignment]

        def _starved(self, zones: frozenset[str], calling: frozenset[str]) -> Iterator[tuple[str, float, float]]:
            asked.add((zones, calling))
            return iter(())

    timer = Timer(id="t", starts="00:00", crops=["c"])
    spells = [
        Spell(outlet=f"z{i}", since=float(at), until=at + long, part_id=f"c{i}") for i, (at, long) in enumerate(zones)
    ]
    calls = [Spell(outlet=f"f{i}", since=float(at), until=at + long) for i, (at, long) in enumerate(drinking)]
    Recorded().clashes([(timer, spell) for spell in spells], calls)

    def on(spell: Spell, minute: float) -> bool:
        long = min(spell.until - spell.since, 1440.0)
        return any(spell.since + shift <= minute < spell.since + long + shift - 1e-6 for shift in (-1440.0, 0.0))

    minutes = [minute + 0.25 for minute in range(1440)]
    for minute in minutes:
        running = frozenset(spell.outlet for spell in spells if on(spell, minute))
        calling = frozenset(call.outlet for call in calls if on(call, minute))
        if running:
            assert (running, calling) in asked


@pytest.mark.parametrize(
    ("timer", "path"),
    [
        ({"starts": "24:00", "crops": ["c1"]}, "/timers/0/starts"),
        ({"starts": "6:00", "crops": ["c1"]}, "/timers/0/starts"),
        ({"starts": "06:00", "crops": ["gone"]}, "/timers/0/crops/0"),
        ({"starts": "06:00", "crops": []}, "/timers/0/crops"),
    ],
)
def test_a_timer_that_cannot_be_is_refused(timer: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(timed(changes={"timers": [{"id": "t", **timer}]}))
    assert path in [fault.path for fault in refused.value.faults]
