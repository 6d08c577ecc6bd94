"""What an event makes of a plan while it lasts: the same plan, with something lost, stuck, off or moved."""

from collections.abc import Sequence
from typing import Any

from leadsman.core.base.units import HOUR_S
from leadsman.core.design import (
    CheckValveFailed,
    DayEvent,
    Design,
    EmitterOutlet,
    EventBase,
    FixedOutlet,
    FloatValveOutlet,
    Freeze,
    HerdMoved,
    HoseOff,
    HotSpell,
    Leak,
    OpenEndOutlet,
    OutletBase,
    PartlyBlocked,
    Scenario,
    ShutByHand,
    SiphonPrimed,
    SourceLost,
    Split,
    StuckOpen,
    StuckShut,
    TapLeftOpen,
    TroughTipped,
)
from leadsman.core.design.change import with_part
from leadsman.core.design.edit.geometry import OnLine, way_of
from leadsman.core.design.edit.splitting import split_line
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.layout import along_way
from leadsman.core.design.line import Fitting, Line
from leadsman.core.design.line_pipe import line_reaches
from leadsman.core.physics.fittings import sudden_contraction_k, sudden_expansion_k

FIRST_LOOK_H = 8.0  # of the first day; ours, no source
HOLE_SHARE = 0.61  # of a sharp-edged hole that the jet fills (Streeter and Wylie, Fluid Mechanics, from memory)
ON_ITS_SIDE_M = 0.005  # what a tipped vessel still holds
WIDE_M = 10.0  # a bore to take a share of


def looks_s(design: Design, length_s: float) -> list[float]:
    """Return when somebody looks during a run [s], rising: from the first morning on, at the site's interval."""
    apart_s, found = design.site.look_every_h * HOUR_S, []
    at_s = FIRST_LOOK_H * HOUR_S
    while at_s < length_s:
        found.append(at_s)
        at_s += apart_s
    return found


def next_look_s(design: Design, at_s: float, length_s: float) -> float | None:
    """Return when something is seen that begins at a time [s]; None where the run ends before."""
    return next((look for look in looks_s(design, length_s) if look > at_s), None)


def end_s(design: Design, event: EventBase, length_s: float) -> float:
    """Return when an event ends [s]; the end of the run where nothing ends it before."""
    ends = next_look_s(design, event.at_s, length_s) if event.until_look else event.until_s
    return length_s if ends is None else min(ends, length_s)


def with_events(design: Design, scenario: Scenario, events: Sequence[DayEvent]) -> tuple[Design, Scenario]:
    """Return a plan and a case as they are while some events last.

    What comes out of a line or a tap does so at an outlet that has the event's id.

    Raises:
        DesignFaults: a line cannot be cut where an event has it split.
    """
    for event in events:
        design, scenario = _with_event(design, scenario, event)
    return design, scenario


def _with_event(design: Design, scenario: Scenario, event: DayEvent) -> tuple[Design, Scenario]:
    match event:
        case SourceLost():
            return design, _listed(scenario, "lost", [event.where])
        case StuckOpen():
            return design, _opened(scenario, event.where)
        case StuckShut() | ShutByHand():
            return design, _shut(scenario, [event.where])
        case Freeze():
            every = [*(outlet.id for outlet in design.outlets), *(line.id for line in design.lines)]
            return design, _shut(scenario, every if event.where is None else [event.where])
        case HotSpell():
            return design, scenario.model_copy(update={"air_c": event.air_c, "et0_mm_d": None})
        case HerdMoved():
            return with_part(design, "herds", event.where, {"outlet": event.to}), scenario
        case CheckValveFailed():
            (line,) = [line for line in design.lines if line.id == event.where]
            inline = [part for part in line.inline if part.kind != "check_valve"]
            return with_part(design, "lines", line.id, {"inline": inline}), scenario
        case TroughTipped():
            return with_part(
                design, "vessels", event.where, {"overflow_m": ON_ITS_SIDE_M, "overflow_into": None}
            ), scenario
        case PartlyBlocked():
            return _blocked(design, event), scenario
        case HoseOff():
            return _come_off(design, event), scenario
        case Split():
            return _split(design, event), scenario
        case TapLeftOpen():
            return _tap_open(design, scenario, event)
        case Leak() | SiphonPrimed():
            return design, scenario
    raise TypeError(type(event).__name__)


def _listed(scenario: Scenario, key: str, names: Sequence[str]) -> Scenario:
    return scenario.model_copy(update={key: sorted({*getattr(scenario, key), *names})})


def _opened(scenario: Scenario, name: str) -> Scenario:
    opened = _listed(scenario, "open", [name])
    return opened.model_copy(update={"shut": [other for other in opened.shut if other != name]})


def _shut(scenario: Scenario, names: Sequence[str]) -> Scenario:
    shut = _listed(scenario, "shut", names)
    return shut.model_copy(update={"open": [other for other in shut.open if other not in names]})


def _blocked(design: Design, event: PartlyBlocked) -> Design:
    line = next((line for line in design.lines if line.id == event.where), None)
    if line is not None:
        narrow_m = WIDE_M * event.left**0.5
        k = (sudden_contraction_k(WIDE_M, narrow_m) + sudden_expansion_k(narrow_m, WIDE_M)) / event.left**2
        return with_part(design, "lines", line.id, {"fittings": [*line.fittings, Fitting.model_construct(k=k)]})
    (outlet,) = [outlet for outlet in design.outlets if outlet.id == event.where]
    return with_part(design, "outlets", outlet.id, _narrower(outlet, event.left, design))


def _narrower(outlet: OutletBase, left: float, design: Design) -> dict[str, Any]:
    """Return what of an outlet changes where a share of its opening is left."""
    match outlet:
        case FloatValveOutlet():
            return {"valve": outlet.valve.model_copy(update={"kv_m3h": outlet.valve.kv_m3h * left})}
        case OpenEndOutlet():
            bores = [_bore_mm(design, line) for line in design.lines if outlet.place in (line.from_, line.to)]
            return {"bore_mm": (outlet.bore_mm or min(bores, default=12.0)) * left**0.5}
        case FixedOutlet() | EmitterOutlet():
            return {"flow_lpm": outlet.flow_lpm * left}
    raise TypeError(type(outlet).__name__)


def _bore_mm(design: Design, line: Line) -> float:
    return 1e3 * line_reaches(line, f"/lines/{line.id}", design.own_pipes)[-1].bore_m


def _come_off(design: Design, event: HoseOff) -> Design:
    (line,) = [line for line in design.lines if line.id == event.where]
    stands = {part.id: part.place for part in [*design.vessels, *design.outlets]}
    (place,) = [place for place in design.places if place.id == stands.get(line.to, line.to)]
    end = place.model_copy(update={"id": f"end-of-{event.id}", "draw_lpm": 0.0})
    jet = OpenEndOutlet(id=event.id, kind="open_end", place=end.id, bore_mm=_bore_mm(design, line))
    off = design.model_copy(update={"places": [*design.places, end], "outlets": [*design.outlets, jet]})
    return with_part(off, "lines", line.id, {"to": end.id})


def _split(design: Design, event: Split) -> Design:
    document = write_design(design.model_copy(update={"events": []}))
    (line,) = [line for line in document["lines"] if line["id"] == event.where]
    (own,) = [line for line in design.lines if line.id == event.where]
    share = min(max(event.at_m / own.pipe_length_m, 1e-3), 1.0 - 1e-3)
    spot = along_way(way_of(document, line), [share])[0]
    place_id = split_line(document, OnLine(line=line, share=share, spot=spot, off_m=0.0), "")
    bore_mm = event.hole_mm * HOLE_SHARE**0.5
    document.setdefault("outlets", []).append(
        {"id": event.id, "kind": "open_end", "place": place_id, "bore_mm": bore_mm}
    )
    return read_design(document)


def _tap_open(design: Design, scenario: Scenario, event: TapLeftOpen) -> tuple[Design, Scenario]:
    if any(outlet.id == event.where for outlet in design.outlets):
        return design, _opened(scenario, event.where)
    tap = OpenEndOutlet(id=event.id, kind="open_end", place=event.where, bore_mm=event.bore_mm)
    return design.model_copy(update={"outlets": [*design.outlets, tap]}), scenario
