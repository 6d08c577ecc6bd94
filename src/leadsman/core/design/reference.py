"""Checks across the document: ids unique, and every name points at something.

They read the raw JSON and skip what has the wrong type, so that they run beside the field checks
and one report lists all that is wrong.
"""

from collections.abc import Collection, Iterator
from typing import Any

from pydantic_core import InitErrorDetails, PydanticCustomError

from leadsman.core.catalogue import fittings, pipes
from leadsman.core.catalogue.livestock import animals
from leadsman.core.design.event import WHERE as EVENT_WHERE

KINDS = (
    "places", "vessels", "lines", "pressure_sources", "outlets", "herds", "paddocks", "calendar", "crops", "timers",
    "dosings", "standbys", "inflows", "scenarios", "events", "books", "sights", "distances",
)  # fmt: skip
# (list, key, lists that it may name)
REFERENCES = (
    ("vessels", "place", ("places",)),
    ("vessels", "overflow_into", ("vessels",)),
    ("pressure_sources", "place", ("places",)),
    ("outlets", "place", ("places",)),
    ("outlets", "fills", ("vessels",)),
    ("lines", "from", ("places", "vessels", "outlets", "pressure_sources")),
    ("lines", "to", ("places", "vessels", "outlets")),
    ("herds", "outlet", ("outlets",)),
    ("paddocks", "outlet", ("outlets",)),
    ("calendar", "herd", ("herds",)),
    ("crops", "outlet", ("outlets",)),
    ("ponds", "vessel", ("vessels",)),
    ("dosings", "vessel", ("vessels",)),
    ("standbys", "fills", ("vessels",)),
    ("standbys", "place", ("places",)),
    ("standbys", "filled_at", ("places",)),
    ("inflows", "fills", ("vessels",)),
    ("inflows", "draws_from", ("vessels",)),
    ("draws", "vessel", ("vessels",)),
    ("events", "to", ("outlets",)),
    ("sights", "from", ("places",)),
    ("sights", "to", ("places",)),
    ("sights", "place", ("places",)),
    ("sights", "outlet", ("outlets",)),
    ("distances", "line", ("lines",)),
    ("requirements", "outlet", ("outlets",)),
    ("requirements", "place", ("places",)),
    ("requirements", "vessel", ("vessels",)),
    ("requirements", "case", ("scenarios",)),
)
# (list, key that holds a list of ids, lists that they may name)
LISTED = (
    ("calendar", "outlets", ("outlets",)),
    ("calendar", "paddocks", ("paddocks",)),
    ("timers", "crops", ("crops",)),
    ("scenarios", "lost", ("inflows", "pressure_sources")),
)


def reference_errors(document: dict[str, Any]) -> list[InitErrorDetails]:
    """Return an error for each duplicate id, each name without its thing, and each line that goes nowhere."""
    errors: list[InitErrorDetails] = []
    ids: dict[str, set[str]] = {kind: set() for kind in KINDS}
    first: dict[str, str] = {}
    listed = {kind: list(_parts(document, kind)) for kind in {*KINDS, *(kind for kind, _, _ in REFERENCES)}}
    for kind in KINDS:
        for index, part in listed[kind]:
            name = part.get("id")
            if not isinstance(name, str):
                continue
            if name in first:
                errors.append(_error("duplicate_id", (kind, index, "id"), name, f"an id not yet used at {first[name]}"))
            else:
                first[name] = f"/{kind}/{index}/id"
            ids[kind].add(name)
    for kind, key, allowed in REFERENCES:
        known = ids[allowed[0]] if len(allowed) == 1 else set().union(*(ids[other] for other in allowed))
        unknown = [
            (index, name)
            for index, part in listed[kind]
            if isinstance(name := part.get(key), str) and name not in known
        ]
        for index, name in unknown:
            what = " or ".join(_a(other) for other in allowed)
            errors.append(_error("unknown_id", (kind, index, key), name, f"the id of {what}"))
    for index, line in listed["lines"]:
        if isinstance(line.get("from"), str) and line.get("from") == line.get("to"):
            errors.append(_error("same_ends", ("lines", index, "to"), line["to"], "another end than its start"))
    errors += [*_scenario_errors(document, ids), *_event_errors(document, ids), *_overflow_errors(document)]
    errors += _source_errors(document, ids["pressure_sources"])
    for kind, key, lists in LISTED:
        known, what = set().union(*(ids[other] for other in lists)), " or ".join(_a(other) for other in lists)
        for index, part in _parts(document, kind):
            named = part.get(key)
            for inner, name in enumerate(named if isinstance(named, list) else []):
                if isinstance(name, str) and name not in known:
                    errors.append(_error("unknown_id", (kind, index, key, inner), name, f"the id of {what}"))
    for kind in ("books", "sights"):
        for index, book in _parts(document, kind):
            for inner, reading in _parts(book, "readings"):
                name = reading.get("place")
                if isinstance(name, str) and name not in ids["places"]:
                    where = (kind, index, "readings", inner, "place")
                    errors.append(_error("unknown_id", where, name, "the id of a place"))
    bench = document.get("bench")
    if isinstance(bench, str) and bench not in ids["places"]:
        errors.append(_error("unknown_id", ("bench",), bench, "the id of a place"))
    frost = document.get("frost")
    for index, bleed in _parts(frost, "bleeds") if isinstance(frost, dict) else ():
        name = bleed.get("outlet")
        if isinstance(name, str) and name not in ids["outlets"]:
            errors.append(_error("unknown_id", ("frost", "bleeds", index, "outlet"), name, "the id of an outlet"))
    for index, pond in _parts(document, "ponds"):
        loop = pond.get("circulation")
        name = loop.get("chamber") if isinstance(loop, dict) else None
        if isinstance(name, str) and name not in ids["vessels"]:
            errors.append(_error("unknown_id", ("ponds", index, "circulation", "chamber"), name, "the id of a vessel"))
    errors += [*_catalogue_errors(document), *_sizing_errors(document, ids)]
    shown = document.get("shown_for")
    if isinstance(shown, str) and shown not in ids["scenarios"]:
        errors.append(_error("unknown_id", ("shown_for",), shown, "the id of a scenario"))
    return errors


def _sizing_errors(document: dict[str, Any], ids: dict[str, set[str]]) -> Iterator[InitErrorDetails]:
    """Yield an error for each stand of no vessel, and for each thing kept that is no line, outlet or vessel."""
    sizing = document.get("sizing")
    if not isinstance(sizing, dict):
        return
    for index, stand in _parts(sizing, "stands"):
        name = stand.get("vessel")
        if isinstance(name, str) and name not in ids["vessels"]:
            yield _error("unknown_id", ("sizing", "stands", index, "vessel"), name, "the id of a vessel")
    kept = sizing.get("keep")
    known = ids["lines"] | ids["outlets"] | ids["vessels"]
    for index, name in enumerate(kept if isinstance(kept, list) else []):
        if isinstance(name, str) and name not in known:
            yield _error("unknown_id", ("sizing", "keep", index), name, "the id of a line, an outlet or a vessel")


def _scenario_errors(document: dict[str, Any], ids: dict[str, set[str]]) -> list[InitErrorDetails]:
    """Return an error for each name in a scenario without its outlet, line or vessel."""
    errors = []
    for index, scenario in _parts(document, "scenarios"):
        for key in ("open", "shut"):
            named = scenario.get(key)
            for inner, name in enumerate(named if isinstance(named, list) else []):
                if isinstance(name, str) and name not in ids["outlets"] | ids["lines"]:
                    errors.append(
                        _error("unknown_id", ("scenarios", index, key, inner), name, "the id of an outlet or a line")
                    )
        levels = scenario.get("levels_m")
        for name in levels if isinstance(levels, dict) else {}:
            if name not in ids["vessels"]:
                errors.append(_error("unknown_id", ("scenarios", index, "levels_m", name), name, "the id of a vessel"))
    return errors


def _overflow_errors(document: dict[str, Any]) -> list[InitErrorDetails]:
    """Return an error for each vessel whose overflow comes back to it, by itself or through others."""
    into = {
        str(vessel.get("id")): to
        for _, vessel in _parts(document, "vessels")
        if isinstance(to := vessel.get("overflow_into"), str)
    }
    errors = []
    for index, vessel in _parts(document, "vessels"):
        own, at = vessel.get("id"), into.get(str(vessel.get("id")))
        for _ in range(len(into)):
            if at is None or at == own:
                break
            at = into.get(at)
        if at is not None and at == own:
            where = ("vessels", index, "overflow_into")
            errors.append(
                _error("same_ends", where, into[own], "a vessel from which the water does not come back here")
            )
    return errors


def _source_errors(document: dict[str, Any], sources: set[str]) -> list[InitErrorDetails]:
    """Return an error for each line after the first that begins at a source under pressure, and for a pump on one."""
    errors, begun = [], set()
    for index, line in _parts(document, "lines"):
        source = line.get("from")
        if not isinstance(source, str) or source not in sources:
            continue
        if source in begun:
            what = "a place: one line begins at a source under pressure, and others branch off it"
            errors.append(_error("not_allowed", ("lines", index, "from"), source, what))
        if line.get("pump") is not None:
            what = "no pump on the line that begins at a source under pressure"
            errors.append(_error("not_allowed", ("lines", index, "pump"), "a pump", what))
        begun.add(source)
    return errors


def _event_errors(document: dict[str, Any], ids: dict[str, set[str]]) -> list[InitErrorDetails]:
    """Return an error for each event at a part that is not there, or not of a kind to which it can happen."""
    errors = []
    lengths = {str(line.get("id")): line.get("length_m") for _, line in _parts(document, "lines")}
    for index, event in _parts(document, "events"):
        kind, name = event.get("kind"), event.get("where")
        allowed = EVENT_WHERE.get(kind) if isinstance(kind, str) else None
        if allowed is None or not isinstance(name, str):
            continue
        if not any(name in ids[other] for other in allowed):
            what = " or ".join(_a(other) for other in allowed)
            errors.append(_error("unknown_id", ("events", index, "where"), name, f"the id of {what}"))
        at_m, length = event.get("at_m"), lengths.get(name)
        if isinstance(at_m, int | float) and isinstance(length, int | float) and at_m > length:
            errors.append(
                _error("not_allowed", ("events", index, "at_m"), f"{at_m:g}", f"0 to the line's {length:g} m")
            )
    return errors


def _catalogue_errors(document: dict[str, Any]) -> list[InitErrorDetails]:
    """Return an error for each product and class of animal that neither the document nor the catalogue has."""
    own = [str(row.get("product_id")) for _, row in _parts(document, "own_pipes")]
    known_pipes: Collection[str] = {*pipes(), *own} if own else pipes()
    named: list[tuple[tuple[str | int, ...], object, Collection[str], str]] = []
    for index, line in _parts(document, "lines"):
        named.append((("lines", index, "product"), line.get("product"), known_pipes, "pipe product"))
        for key, known, what in (("runs", known_pipes, "pipe product"), ("fittings", fittings(), "fitting product")):
            for inner, part in _parts(line, key):
                named.append((("lines", index, key, inner, "product"), part.get("product"), known, what))
    for index, herd in _parts(document, "herds"):
        if herd.get("intake_lpd") is None:  # with a figure of its own the class may be the user's own too
            named.append((("herds", index, "class"), herd.get("class"), animals(), "class of animal"))
    return [
        _error(
            "unknown_name",
            location,
            name,
            f"a {what} of the catalogue: {', '.join(sorted(known)[:4])}, …",
        )
        for location, name, known, what in named
        if isinstance(name, str) and name not in known
    ]


def _error(code: str, location: tuple[str | int, ...], found: str, allowed: str) -> InitErrorDetails:
    # PydanticCustomError wants a literal template; the text goes in through its context
    error = PydanticCustomError(code, "{allowed}", {"allowed": allowed})
    return InitErrorDetails(type=error, loc=location, input=found)


def _parts(document: dict[str, Any], kind: str) -> Iterator[tuple[int, dict[str, Any]]]:
    listed = document.get(kind)
    for index, part in enumerate(listed if isinstance(listed, list) else []):
        if isinstance(part, dict):
            yield index, part


def _a(kind: str) -> str:
    """Return the kind of a part with its article."""
    return f"{'an' if kind[0] in 'aeiou' else 'a'} {_singular(kind)}"


def _singular(kind: str) -> str:
    return kind.removesuffix("s").replace("_", " ")
