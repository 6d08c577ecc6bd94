"""Options: the demonstration sized, why it is not cheaper, kept as an option, laid beside the plan, and taken back."""

import math
from collections.abc import Iterator

import pytest
from bench_page import Bench
from farm import one

from leadsman.core.base.wording import plain
from leadsman.core.siting.outlet import in_paddock
from leadsman.core.sizing.size import size
from leadsman.demo import tamsel_ridge
from leadsman.launch.cluster import Cluster
from leadsman.launch.server import Child, job_worker


@pytest.fixture
def worker(url: str, cluster: Cluster) -> Iterator[Child]:
    del cluster
    running = job_worker(url)
    yield running
    running.stop()


@pytest.mark.usefixtures("worker")
def test_the_cheapest_plan_is_found_explained_kept_compared_and_taken_back(bench: Bench) -> None:
    best = size(tamsel_ridge())
    bench.load("options")
    bench.button("Size this plan").click()
    bench.await_text("[data-testid=sized-told]", "proven to be the cheapest with these flows")
    assert f"{best.cost:.0f} USD" in bench.text("[data-testid=sized-told]").replace("\u202f", "")
    why = next(told for told in best.why if told.part == "low-leg")
    assert plain(why.told).split(": ")[0] in bench.text("[data-testid=sized-low-leg]")
    before = bench.head().document
    bench.button("Keep as an option").click()
    bench.await_text("[data-testid=compared]", "Plan A · three branches · cheapest")
    told = bench.text("[data-testid=compared]")
    assert "Goose pan valve gets 3.0 L/min of the 4.0 L/min wanted" in told
    assert "Hop drip, all open" not in told  # alike in both
    assert bench.head().document == before  # the plan itself is as it was
    bench.button("Use in this plan").click()
    wider = best.lines["low-leg"][0].product_id
    bench.until(lambda: one(bench.head().document, "lines", "low-leg")["product"] == wider)
    bench.until(lambda: "Goose pan valve gets" not in bench.text("[aria-label=Verdict]"))
    bench.button("Undo").click()
    bench.until(lambda: bench.head().document["lines"] == before["lines"])


def test_what_is_required_and_may_be_chosen_is_kept_in_the_plan(bench: Bench) -> None:
    bench.load("options")
    with bench.within("Pond valve"):
        bench.choose("When", "alone")
    bench.until(lambda: one(bench.head().document, "requirements", "pond-valve", "outlet")["alone"] is True)
    bench.choose("A tank that may stand higher", "chambers")
    bench.until(lambda: bench.head().document["sizing"]["stands"][0]["vessel"] == "chambers")
    assert "raised tank" in bench.find("[aria-label='May be chosen']").text


@pytest.mark.usefixtures("worker")
def test_where_a_trough_could_stand_is_tried_shown_and_taken(bench: Bench) -> None:
    bench.load("options")
    bench.button("Where it stands").click()
    bench.choose("What", "ewe-valve")
    bench.choose("Where", "paddock fold-field")
    bench.button("Try positions").click()
    bench.await_text("[data-testid=siting]", "Put it there")
    assert bench.axe() == []
    best = in_paddock(tamsel_ridge(), "ewe-valve", "fold-field")[0]
    assert f"{best.walk_m:.0f} m to walk at most" in bench.text("[data-testid=siting-told]")
    before = bench.head().document
    bench.button("Put it there").click()

    def stands() -> tuple[float, float]:
        document = bench.head().document
        place = one(document, "places", one(document, "outlets", "ewe-valve")["place"])
        return place["east_m"], place["north_m"]

    bench.until(lambda: math.dist(stands(), best.spot) < 0.02)
    bench.button("Undo").click()
    bench.until(lambda: bench.head().document["lines"] == before["lines"])
