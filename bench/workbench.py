"""What the page waits for: the server's answer to an edit of the demonstration, and a check of it."""

from collections.abc import Iterator

from bench.measure import Result, median_s
from leadsman.api.app import create_app
from leadsman.core.case import case_of
from leadsman.core.design_file import write_design
from leadsman.core.solve import model_of
from leadsman.demo import tamsel_ridge


def results() -> Iterator[Result]:
    """Yield the server's medians [ms] for the demonstration, with all its states and ranges."""
    design = tamsel_ridge()
    client = create_app("postgresql://no-database-is-needed/").test_client()
    body = {"document": write_design(design)}

    def ask(path: str) -> None:
        assert client.post(path, json=body).status_code == 200

    model, case = model_of(design), case_of(design, all_open=True)
    one = median_s(lambda: model.full_flows([case]), 30)
    edit, check = median_s(lambda: ask("/api/analyses"), 40), median_s(lambda: ask("/api/analyses/rest"), 10)
    yield Result("demonstration: an edit judged, states and ranges [ms]", edit * 1e3, note="aim 30 ms")
    yield Result("demonstration: the same over one state solved", edit / one, note=f"{one * 1e3:.1f} ms")
    yield Result("demonstration: at rest, remedies and mobs too [ms]", check * 1e3)
