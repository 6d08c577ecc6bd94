"""Herds, plants, sources and readings: new ones, with figures to start from."""

from leadsman.core.design.edit.geometry import pipe_length_m
from leadsman.core.design.edit.model import (
    AddBook,
    AddCrop,
    AddDistance,
    AddEvent,
    AddHerd,
    AddInflow,
    AddPondLoss,
    AddRotation,
    AddSight,
    AddTimer,
    SetCropWay,
    SetPumpBy,
)
from leadsman.core.design.edit.parts import (
    Document,
    Outcome,
    Part,
    add,
    exact,
    free_id,
    gives_water,
    numbered,
    part,
    parts,
    refuse,
)
from leadsman.core.design.event import WHERE
from leadsman.core.design.site import Site
from leadsman.core.design.start import (
    CROP_WAYS,
    HERD,
    INFLOWS,
    PAN_MM_D,
    PUMP_CURVE_HEADS_M,
    PUMP_FLOW_LPM,
    PUMP_LIFT_M,
    SIGHTS,
    SUMMER_NORTH,
    SUMMER_SOUTH,
    TIMER_STARTS,
)

# to the end of the run, unless something else is said
LASTING = ("hot_spell", "herd_moved", "shut_by_hand", "siphon_primed")


def add_herd(document: Document, _edit: AddHerd) -> Outcome:
    """Add a herd at the first outlet."""
    new = {**numbered(document, "herds", "herd"), **HERD, "outlet": _first_outlet(document)["id"]}
    return Outcome(made=[add(document, "herds", new)])


def add_rotation(document: Document, edit: AddRotation) -> Outcome:
    """Let a herd move over the summer, on the first paddock of its own water, else at that water."""
    outlet = part(document, "herds", edit.herd, "herd")["outlet"]
    paddock = next(
        (candidate["id"] for candidate in parts(document, "paddocks") if candidate.get("outlet") == outlet), None
    )
    (begin, end), year = _summer(document), _season_year(document, edit.year)
    rotation: Part = {
        "id": free_id(document, "calendar", "moves"), "herd": edit.herd, "from": f"{year}-{begin}",
        "to": f"{year if begin < end else year + 1}-{end}", "days_each": 1,
    }  # fmt: skip
    rotation |= {"paddocks": [paddock]} if paddock else {"outlets": [outlet]}
    return Outcome(made=[add(document, "calendar", rotation)])


def add_crop(document: Document, _edit: AddCrop) -> Outcome:
    """Add plants at the first outlet that fills no vessel, else at the first."""
    first = _first_outlet(document)
    drip = next((outlet for outlet in parts(document, "outlets") if not outlet.get("fills")), first)
    new = {**numbered(document, "crops", "plants"), "outlet": drip["id"], **CROP_WAYS["plants"]}
    return Outcome(made=[add(document, "crops", new)])


def set_crop_way(document: Document, edit: SetCropWay) -> Outcome:
    """Give plants the fields of another method; those of the old one go, and their values over the season."""
    crop = part(document, "crops", edit.crop, "crop")
    for key in {key for figures in CROP_WAYS.values() for key in figures} | {"over_season"}:
        crop.pop(key, None)
    crop |= CROP_WAYS[edit.way]
    return Outcome()


def add_timer(document: Document, _edit: AddTimer) -> Outcome:
    """Add a timer that waters the first plants."""
    crop = next(iter(parts(document, "crops")), None)
    if crop is None:
        refuse("kind", "a plan without plants", "plants, for the timer to water")
    new = {**numbered(document, "timers", "timer"), "starts": TIMER_STARTS, "crops": [crop["id"]]}
    return Outcome(made=[add(document, "timers", new)])


def add_event(document: Document, edit: AddEvent) -> Outcome:
    """Let something happen in a run, until the next look; heat and a moved herd last to its end."""
    new: Part = {"id": free_id(document, "events", "event"), "kind": edit.event, "at_s": edit.at_s}
    if edit.event not in LASTING:
        new["until_look"] = True
    allowed = WHERE.get(edit.event, ())
    candidates = [found["id"] for kind in allowed for found in parts(document, kind) if _may_be(edit.event, found)]
    if edit.where is not None and edit.where not in candidates:
        refuse("where", repr(edit.where), "a part that this can happen to")
    if allowed and not candidates:
        refuse("event", edit.event, f"one that can happen here: this plan has no {' or '.join(allowed)} for it")
    if allowed and edit.event != "freeze":
        new["where"] = edit.where or candidates[0]
    if edit.event == "split":
        (line,) = [line for line in parts(document, "lines") if line["id"] == new["where"]]
        new["at_m"] = exact(pipe_length_m(line) / 2.0)
    if edit.event == "herd_moved":
        own = next(herd["outlet"] for herd in parts(document, "herds") if herd["id"] == new["where"])
        others = [outlet["id"] for outlet in parts(document, "outlets") if outlet.get("fills")]
        new["to"] = next((outlet for outlet in others if outlet != own), own)
    return Outcome(made=[add(document, "events", new)])


def _may_be(event: str, found: Part) -> bool:
    """Whether an event of a kind can happen to a part of the right list."""
    if event == "stuck_open":
        return bool(found.get("kind") == "float_valve")
    if event == "check_valve_failed":
        return any(part["kind"] == "check_valve" for part in found.get("inline") or [])
    if event == "siphon_primed":
        return bool(found.get("siphon")) or found.get("kind") == "siphon"
    return True


def add_pond_loss(document: Document, edit: AddPondLoss) -> Outcome:
    """Let a vessel lose water to the air."""
    part(document, "vessels", edit.vessel, "vessel")
    document["ponds"] = [*parts(document, "ponds"), {"vessel": edit.vessel, "pan_mm_d": PAN_MM_D}]
    return Outcome()


def add_inflow(document: Document, edit: AddInflow) -> Outcome:
    """Add a source that fills the first vessel that no float fills, else the first."""
    vessels = parts(document, "vessels")
    if not vessels:
        refuse("source", "a plan without a vessel", "a tank, for the source to fill")
    filled = next((vessel for vessel in vessels if gives_water(vessel)), vessels[0])
    shared = {**numbered(document, "inflows", "source"), "kind": edit.source, "fills": filled["id"]}
    return Outcome(made=[add(document, "inflows", {**shared, **INFLOWS[edit.source]})])


def set_pump_by(document: Document, edit: SetPumpBy) -> Outcome:
    """Give a pump a curve about its flow, or the flow in the middle of its curve."""
    pump = part(document, "inflows", edit.inflow, "inflow")
    if pump["kind"] != "pump":
        refuse("inflow", repr(edit.inflow), "the id of a pump")
    if edit.by == "curve" and not pump.get("curve"):
        flow = pump.pop("flow_lpm", None) or PUMP_FLOW_LPM
        heads = enumerate(PUMP_CURVE_HEADS_M)
        pump["curve"] = [[flow * number, head] for number, head in heads]
        pump["lift_m"] = pump.get("lift_m", PUMP_LIFT_M)
    elif edit.by == "flow" and pump.get("curve"):
        curve = pump.pop("curve")
        pump["flow_lpm"] = curve[len(curve) // 2][0] or PUMP_FLOW_LPM
        pump.pop("lift_m", None)
    return Outcome()


def add_book(document: Document, _edit: AddBook) -> Outcome:
    """Start a level book, with nothing read yet."""
    new = numbered(document, "books", "book")
    new |= {"name": f"Level {new['name'].lower()}", "readings": []}
    return Outcome(made=[add(document, "books", new)])


def add_sight(document: Document, edit: AddSight) -> Outcome:
    """Start a reading from where heights are measured from, else between the first two places."""
    places = [place["id"] for place in parts(document, "places")]
    begin = document.get("bench") or places[0]
    end = next((place for place in places if place != begin), begin)
    new: Part = {"id": free_id(document, "sights", "sight"), "kind": edit.way, **SIGHTS[edit.way]}
    if edit.way in ("hose_level", "clinometer"):
        if begin == end:
            refuse("way", "a plan with one place", "two places, to read between")
        new |= {"from": begin, "to": end}
    elif edit.way == "barometer":
        stops = (begin, end, begin)
        new["readings"] = [{"place": place, "minute": 10 * number} for number, place in enumerate(stops)]
    elif edit.way == "timed_flow":
        new["outlet"] = _first_outlet(document)["id"]
    else:
        new["place"] = end
    return Outcome(made=[add(document, "sights", new)])


def add_distance(document: Document, edit: AddDistance) -> Outcome:
    """Count a line's length."""
    part(document, "lines", edit.line, "line")
    new = {"id": free_id(document, "distances", "distance"), "line": edit.line, "kind": edit.counted}
    return Outcome(made=[add(document, "distances", new)])


def _first_outlet(document: Document) -> Part:
    outlets = parts(document, "outlets")
    if not outlets:
        refuse("outlet", "a plan without an outlet", "a trough or a tap, to take water from")
    return outlets[0]


def _summer(document: Document) -> tuple[str, str]:
    """Return the months and days between which grass grows, by the side of the equator; north where none is told."""
    return SUMMER_SOUTH if Site.model_validate(document["site"]).is_southern else SUMMER_NORTH


def _season_year(document: Document, this_year: int) -> int:
    """Return the year of the season shown: of the day shown, else of the first moves, else this one."""
    cases = parts(document, "scenarios")
    shown = [case for case in cases if case["id"] == document.get("shown_for")] or cases[:1]
    day = shown[0].get("date") if shown else None
    moves = [rotation["from"] for rotation in parts(document, "calendar")]
    known = day or next(iter(moves), None)
    return int(known[:4]) if known else this_year
