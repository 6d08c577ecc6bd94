"""The ways on which water runs, all outlets drawing, with the shapes of their pipes."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.profile import PipeProfile
from leadsman.core.analysis.route import Route
from leadsman.core.design import OutletBase


def running_profiles(analysis: Analysis) -> Iterator[tuple[OutletBase, Route, PipeProfile]]:
    """Yield each outlet that gets water, with its way and its profile."""
    for outlet in analysis.fed_outlets if analysis.state.converged else ():
        route = analysis.routes[outlet.id]
        if route is not None and analysis.answer(outlet).judged_flow_m3s > 0.0:
            yield outlet, route, PipeProfile(analysis.model, route)
