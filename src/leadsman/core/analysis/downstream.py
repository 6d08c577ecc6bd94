"""Which outlets that are meant to run a part serves: those over a line, and those that draw from a vessel."""

from leadsman.core.analysis.running import Running


def behind_line(running: Running, line_id: str) -> frozenset[str]:
    """Return the outlets that are meant to run and whose water comes along a line."""
    fed = {outlet.id for outlet in running.fed_outlets}
    return frozenset(way.outlet.id for way in running.ways_over.get(line_id, ()) if way.outlet.id in fed)


def drawing_from(running: Running, vessel_id: str) -> frozenset[str]:
    """Return the outlets that are meant to run and whose water comes out of a vessel."""
    ways = ((outlet.id, running.routes[outlet.id]) for outlet in running.fed_outlets)
    return frozenset(outlet_id for outlet_id, route in ways if route is not None and route.vessel.id == vessel_id)
