"""Calibration in words: what is off, by how much, what to do about it, what to read next."""

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import kpa_from_pa, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.calibration.fit import LIKELY, SURE, Calibration, Explanation
from leadsman.core.calibration.reading import LEAST_FLOW_ERROR_M3S, Drawing, ReadingKind
from leadsman.core.calibration.separate import NextReading
from leadsman.core.calibration.suspect import CATCHES, Suspect
from leadsman.core.design.document import labels

PART_NAMES = {"isolating_valve": "tap", "check_valve": "check valve", "filter": "filter", "reducer": "pressure reducer"}
DRAWING_NAMES: dict[Drawing, str] = {"alone": "the others shut", "all": "all running", "none": "all shut"}


def name_of(analysis: Analysis, part: str) -> str:
    """Return what a part is called: an outlet, a place, a line, a vessel or a source."""
    return labels(analysis.document).get(part, part)


def sure_words(sure: float) -> str:
    """Return how sure something is, in words: its share from 0 to 1."""
    if sure >= SURE:
        return "almost certain"
    return "likely" if sure >= LIKELY else "possible"


def told_explanation(analysis: Analysis, calibration: Calibration, explanation: Explanation) -> Wording:
    """Return one explanation as a sentence, with its figure and range."""
    suspect = explanation.suspect
    if suspect is None:
        return say("Nothing is off: the readings agree with the plan within their errors.")
    name = name_of(analysis, suspect.part)
    low, best, high = explanation.low, explanation.best, explanation.high
    match suspect.kind:
        case "rough":
            walls = (Quantity(value=1000.0 * one, unit="mm", digits=2) for one in (best, low, high))
            return say("{} passes as if its wall were {} rough ({} to {}): scale, slime or worms, or a smaller "
                "bore than planned.", name, *walls)  # fmt: skip
        case "blocked":
            return say("Something blocks {}: {}.", name, _passed(analysis, calibration, explanation))
        case "valve":
            shares = (_share(one) for one in (best, low, high))
            more = "Clean its seat, and the filter before it." if best < 1.0 else "It is larger than planned."
            return say("{} passes {} of what it should ({} to {}). {}", name, *shares, more)
    heights = (Quantity(value=abs(one), unit="m", digits=1) for one in (best, *sorted((low, high), key=abs)))
    thing = "The water of {}" if suspect.kind == "source" else "{}"
    way = "lower" if best < 0.0 else "higher"
    return say(thing + " stands {} " + way + " than planned ({} to {}).", name, *heights)


def to_look_at(analysis: Analysis, suspect: Suspect | None) -> list[tuple[str, float]]:
    """Return the parts in a line that catch dirt or may stand half shut: what each is called, and how far along [m]."""
    lines = analysis.model.layout.lines
    if suspect is None or suspect.kind != "blocked" or suspect.part not in lines:
        return []
    inline = [part for part in lines[suspect.part].inline if part.kind in CATCHES]
    return [(PART_NAMES[part.kind], part.at_m) for part in sorted(inline, key=lambda part: part.at_m)]


def _passed(analysis: Analysis, calibration: Calibration, explanation: Explanation) -> Wording:
    """Return what it makes of the reading that it changes most."""
    with np.errstate(divide="ignore", invalid="ignore"):
        shares = np.nan_to_num(explanation.predicted / calibration.planned, nan=1.0, posinf=1.0)
    least = int(np.argmin(shares))
    reading = calibration.readings[least]
    what = say("{} gets {} of the planned {}", name_of(analysis, reading.part), _share(float(shares[least])),
        "flow" if reading.kind == "flow" else "pressure")  # fmt: skip
    return say("{} with {}", what, DRAWING_NAMES[reading.drawing])


def told_next(analysis: Analysis, calibration: Calibration, found: NextReading | None) -> Wording:
    """Return the next reading as a sentence; what else would tell where no reading does."""
    first, second = calibration.first, calibration.second
    if second is None or second.sure < 0.02:
        return ()
    names = [_short(analysis, one) for one in (first, second)]
    if found is not None:
        kind, part, drawing = found.key
        doing = "Time a pail at {}, {}" if kind == "flow" else "Read a gauge at {}, {}"
        return say(
            doing + ": {} if {}, {} if {}.", name_of(analysis, part), DRAWING_NAMES[drawing],
            _about(kind, found.first), names[0], _about(kind, found.second), names[1],
        )  # fmt: skip
    kinds = {one.suspect.kind for one in (first, second) if one.suspect}
    if kinds & {"height", "source"}:
        return say("No flow or pressure tells {} from {}: measure that height again.", *names)
    return say("No reading tells {} from {}: open and look, the nearest first; or read each once more.", *names)


def _short(analysis: Analysis, explanation: Explanation) -> str:
    suspect = explanation.suspect
    if suspect is None:
        return "nothing is off"
    name = name_of(analysis, suspect.part)
    match suspect.kind:
        case "rough":
            return f"{name} is rough"
        case "blocked":
            return f"{name} is blocked"
        case "valve":
            return f"{name} is off"
        case "height":
            return f"the height of {name} is off"
    return f"the height of the water of {name} is off"


def quantity_of(kind: ReadingKind, value: float) -> Quantity:
    """Return a reading [m3/s or Pa] as it is shown."""
    if kind == "flow":
        return Quantity(value=lpm_from_m3s(value), unit="L/min")
    return Quantity(value=kpa_from_pa(value), unit="kPa", digits=0)


def _about(kind: ReadingKind, value: float) -> Wording:
    if kind == "flow" and value < LEAST_FLOW_ERROR_M3S:
        return say("nothing")
    return say("about {}", quantity_of(kind, value))


def _share(share: float) -> str:
    return f"{100.0 * share:.0f} %"
