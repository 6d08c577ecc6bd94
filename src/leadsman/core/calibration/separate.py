"""The next reading: what would tell two explanations apart best."""

from dataclasses import dataclass
from itertools import product

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.calibration.fit import Calibration, Explanation
from leadsman.core.calibration.predict import Predictor, ReadingKey
from leadsman.core.calibration.reading import LEAST_FLOW_ERROR_M3S, Drawing, pressure_error_pa
from leadsman.core.steady.loading import Figures, likely_figures

ENOUGH = 3.0  # standard errors between two answers: no chance any more
FLOW_SHARE = 0.03  # one standard error of a timed pail; typical, ours
MOST_CANDIDATES = 120


@dataclass(frozen=True, kw_only=True)
class NextReading:
    """A reading not taken yet: what either explanation lets expect [m3/s or Pa], and how many errors apart they are."""

    key: ReadingKey
    first: float
    second: float
    apart: float


def next_reading(analysis: Analysis, calibration: Calibration) -> NextReading | None:
    """Return the reading that tells the first explanation from the next part's; None where none would.

    A timed pail is preferred to a gauge where both tell.
    """
    second = calibration.second
    if second is None:
        return None
    predictor = calibration.predictor
    keys = _candidates(analysis, calibration)
    if not keys:
        return None
    first_told, second_told = (
        predictor.predict(keys, _figures(predictor, one))[0] for one in (calibration.first, second)
    )
    found = []
    for key, one, other in zip(keys, first_told.tolist(), second_told.tolist(), strict=True):
        error = float(np.hypot(_error(key, one), _error(key, other)))
        apart = abs(one - other) / error
        if np.isfinite(apart):
            found.append(NextReading(key=key, first=one, second=other, apart=apart))
    telling = [one for one in found if one.apart >= ENOUGH]
    return max(telling, key=lambda one: (one.key[0] == "flow", one.apart), default=None)


def _candidates(analysis: Analysis, calibration: Calibration) -> list[ReadingKey]:
    """Return what could be read and was not: pails and gauges at outlets, gauges where lines meet."""
    read = {one.key for one in calibration.readings} | {one.key for one in calibration.left_out}
    fed = [outlet.id for outlet in analysis.fed_outlets if analysis.routes[outlet.id] is not None]
    both: tuple[Drawing, ...] = ("alone", "all")
    shut: tuple[Drawing, ...] = (*both, "none")
    joint: tuple[Drawing, ...] = ("all", "none")
    keys: list[ReadingKey] = [("flow", outlet, drawing) for outlet, drawing in product(fed, both)]
    keys += [("pressure", outlet, drawing) for outlet, drawing in product(fed, shut)]
    ends = {end for line in analysis.document.lines for end in (line.from_, line.to)}
    joints = sorted(ends & set(analysis.model.layout.places))
    keys += [("pressure", place, drawing) for place, drawing in product(joints, joint)]
    return [key for key in keys if key not in read and calibration.predictor.can(*key)][:MOST_CANDIDATES]


def _figures(predictor: Predictor, explanation: Explanation) -> Figures:
    if explanation.suspect is None:
        return likely_figures(predictor.plumbing)
    return explanation.suspect.applied(predictor.plumbing, np.array([explanation.best]))


def _error(key: ReadingKey, value: float) -> float:
    return max(LEAST_FLOW_ERROR_M3S, FLOW_SHARE * value) if key[0] == "flow" else pressure_error_pa(value)
