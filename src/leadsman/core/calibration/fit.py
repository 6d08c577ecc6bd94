"""Least squares over what could be wrong, one part at a time: which explains the readings, how surely, and by how much.

Each suspect's one figure is fitted to the readings, weighted with their errors and with what is uncertain in the plan
anyway. How sure is a share: the likelihood of the readings, averaged over what the figure may be, times how often such
a thing is the reason, against all other suspects and against nothing being wrong (Bayes' rule; Occam's factor comes
with the average).
"""

from dataclasses import dataclass

import numpy as np
from scipy.stats import chi2

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.uncertainty import intervals, rows_of
from leadsman.core.base.array import Floats
from leadsman.core.calibration.predict import Predictor, ReadingKey
from leadsman.core.calibration.reading import Measured, Reading
from leadsman.core.calibration.suspect import STEPS, Suspect, narrowed, suspects
from leadsman.core.design import OutletBase
from leadsman.core.steady.loading import Figures, likely_figures

NOTHING_WEIGHT = 0.5  # of nothing being wrong, against all suspects together; ours
FINE = 16  # values between two that were solved
SURE, LIKELY = 0.9, 0.5
UNLIKELY_SHARE = 0.01  # of chance, that readings lie so far from what even the best suspect gives
UNIFORM_PER_WIDTH = 12.0**-0.5  # one standard deviation of an even spread over its width


@dataclass(frozen=True, kw_only=True)
class Explanation:
    """A suspect, or nothing (`suspect` None), with how sure it is (0 to 1) and its figure: best, and 90 % range.

    `predicted` are the readings it would give, in their order; `misfit` the weighted sum of squares that is left [-].
    """

    suspect: Suspect | None
    sure: float
    best: float = 0.0
    low: float = 0.0
    high: float = 0.0
    predicted: Floats
    misfit: float

    @property
    def part(self) -> str | None:
        """The part that is off; None where nothing is."""
        return self.suspect.part if self.suspect else None


@dataclass(frozen=True, kw_only=True)
class Calibration:
    """What the readings say of the plan: explanations, the surest first; what the plan gives for each reading.

    `planned_error` is one standard deviation of what the plan gives, by what is uncertain in it. `left_out` are
    readings to which the plan has no answer that can be fitted: no water comes there, or its way draws air in.
    `fits` tells whether the first explanation leaves no more than chance and errors do. Explanations of one part, as a
    line that is blocked or rough, stand together, the surest part first.
    """

    readings: list[Reading]
    planned: Floats
    planned_error: Floats
    explanations: list[Explanation]
    fits: bool
    predictor: Predictor
    left_out: list[Reading]

    @property
    def first(self) -> Explanation:
        return self.explanations[0]

    @property
    def second(self) -> Explanation | None:
        """The surest explanation of another part, or that nothing is wrong; None where there is no other."""
        return next((one for one in self.explanations if one.part != self.first.part), None)

    def sure_of(self, part: str | None) -> float:
        """Return how sure it is (0 to 1) that it is this part, whatever is wrong with it."""
        return sum(one.sure for one in self.explanations if one.part == part)


def calibrated(analysis: Analysis, taken: Measured) -> Calibration | None:
    """Return what readings say of a plan; None where there is none of an outlet that the plan feeds."""
    predictor = Predictor(analysis, taken.levels_m)
    readings = [one for one in taken.readings if _can(analysis, predictor, one)]
    if not readings or not analysis.state.converged:
        return None
    keys = [one.key for one in readings]
    plan = predictor.predict(keys, likely_figures(predictor.plumbing))[0]
    if np.isnan(plan).any():
        return None
    spread = _spread(analysis, predictor, keys)
    measured = _Measured.of(readings, spread)
    named = {one.part for one in readings}
    outlets = [outlet for outlet in analysis.fed_outlets if _concerns(analysis, outlet, named)]
    places = {name for name in named if name in predictor.plumbing.layout.places}
    accused = suspects(analysis, outlets, places)
    nothing = _nothing(measured, plan, NOTHING_WEIGHT * sum(one.weight for one in accused))
    explained = _shared([nothing, *_tried(predictor, keys, measured, accused)])
    best = explained[0]
    freedom = max(1, len(readings) - (best.suspect is not None))
    return Calibration(
        readings=readings,
        planned=plan,
        planned_error=np.sqrt(np.einsum("ij,ij->j", spread, spread)),
        explanations=explained,
        fits=bool(chi2.sf(best.misfit, freedom) > UNLIKELY_SHARE),
        predictor=predictor,
        left_out=[one for one in taken.readings if one not in readings],
    )


def _can(analysis: Analysis, predictor: Predictor, reading: Reading) -> bool:
    """Whether a reading can be held against full pipes: the plan has an answer, and nothing draws air in that state."""
    if not predictor.can(*reading.key):
        return False
    outlet = predictor.plumbing.layout.outlets.get(reading.part)
    if outlet is not None and (outlet.id not in analysis.states or analysis.routes[outlet.id] is None):
        return False
    if outlet is not None and reading.drawing == "alone":
        return analysis.states[outlet.id].solved.opened is None
    return reading.drawing == "none" or analysis.state.solved.opened is None


def _concerns(analysis: Analysis, outlet: OutletBase, named: set[str]) -> bool:
    """Whether an outlet is read, or draws through a place that is."""
    route = analysis.routes[outlet.id]
    if route is None:
        return False
    return outlet.id in named or any(leg.line.from_ in named or leg.line.to in named for leg in route.legs)


def _spread(analysis: Analysis, predictor: Predictor, keys: list[ReadingKey]) -> Floats:
    """Return how far each uncertain figure of the plan moves each reading, one standard deviation; (figures, keys).

    Every tank is taken to stand as it was read, or as the plan says.
    """
    bounds = intervals(predictor.plumbing, analysis.standing)
    columns = [number for number, (kind, _) in enumerate(bounds.columns()) if kind != "level_rise_m"]
    if not columns:
        return np.zeros((0, len(keys)))
    count, uncertain = len(bounds.columns()), len(columns)
    likely = np.array([_share_of_likely(bounds.low, bounds.high, bounds.likely, *one) for one in bounds.columns()])
    shares = np.tile(likely, (2 * uncertain, 1)).reshape(2 * uncertain, count)
    shares[np.arange(uncertain), columns] = 0.0
    shares[uncertain + np.arange(uncertain), columns] = 1.0
    found = predictor.predict(keys, rows_of(bounds, shares))
    moves = np.nan_to_num(found[uncertain:] - found[:uncertain]) * UNIFORM_PER_WIDTH
    return np.asarray(moves[np.abs(moves).max(axis=1) > 0.0])


def _share_of_likely(low: Figures, high: Figures, likely: Figures, kind: str, column: int) -> float:
    least, most = float(getattr(low, kind)[0, column]), float(getattr(high, kind)[0, column])
    return (float(getattr(likely, kind)[0, column]) - least) / (most - least)


@dataclass(frozen=True, kw_only=True)
class _Measured:
    """Readings scaled so that their errors, with those of the plan, are 1 and independent of each other."""

    values: Floats
    whiten: Floats

    @classmethod
    def of(cls, readings: list[Reading], spread: Floats) -> "_Measured":
        errors = np.array([one.error for one in readings])
        covariance = np.diag(errors**2) + spread.T @ spread
        return cls(
            values=np.array([one.value for one in readings]), whiten=np.linalg.inv(np.linalg.cholesky(covariance))
        )  # fmt: skip

    def misfits(self, predicted: Floats) -> Floats:
        """Return the weighted sum of squares of each row of predicted readings [-]; infinite without an answer."""
        left = (np.nan_to_num(predicted, nan=np.inf) - self.values) @ self.whiten.T
        misfits: Floats = np.einsum("ij,ij->i", left, left)
        return np.nan_to_num(misfits, nan=np.inf, posinf=np.inf)


@dataclass(frozen=True, kw_only=True)
class _Tried:
    explanation: Explanation
    log_weight: float


def _nothing(measured: _Measured, plan: Floats, weight: float) -> _Tried:
    misfit = float(measured.misfits(plan[None])[0])
    return _Tried(
        explanation=Explanation(suspect=None, sure=0.0, predicted=plan, misfit=misfit),
        log_weight=float(np.log(weight)) - misfit / 2.0,
    )


def _tried(predictor: Predictor, keys: list[ReadingKey], measured: _Measured, accused: list[Suspect]) -> list[_Tried]:
    """Return what each suspect explains: its figure is tried over all of its range, then closer about the best."""
    wide = _predicted(predictor, keys, accused)
    close = [_about_the_best(one, measured.misfits(found)) for one, (_, found) in zip(accused, wide, strict=True)]
    near = _predicted(predictor, keys, close)
    return [_explained(measured, *three) for three in zip(accused, wide, near, strict=True)]


def _predicted(predictor: Predictor, keys: list[ReadingKey], tried: list[Suspect]) -> list[tuple[Floats, Floats]]:
    """Return, for each suspect, values of its figure and the readings these give; all are solved in one batch."""
    rows = [one.applied(predictor.plumbing, one.values) for one in tried]
    together = {name: np.concatenate([getattr(one, name) for one in rows]) for name in vars(rows[0])} if rows else {}
    found = predictor.predict(keys, Figures(**together)) if rows else np.zeros((0, len(keys)))
    return [_fine(one.values, part) for one, part in zip(tried, np.split(found, max(1, len(tried))), strict=False)]


def _about_the_best(suspect: Suspect, misfits: Floats) -> Suspect:
    best = int(np.argmin(misfits)) // FINE
    around = suspect.values[max(0, best - 1)], suspect.values[min(STEPS - 1, best + 2)]
    return narrowed(suspect, float(around[0]), float(around[1]))


def _explained(
    measured: _Measured, suspect: Suspect, wide: tuple[Floats, Floats], close: tuple[Floats, Floats]
) -> _Tried:
    misfits, near = measured.misfits(wide[1]), measured.misfits(close[1])
    row = int(np.argmin(near))
    low, high = _range(np.concatenate([wide[0], close[0]]), np.concatenate([misfits, near]))
    explanation = Explanation(
        suspect=suspect, sure=0.0, best=float(close[0][row]), low=low, high=high, predicted=close[1][row],
        misfit=float(near[row]),
    )  # fmt: skip
    average = float(np.logaddexp.reduce(-misfits / 2.0) - np.log(len(misfits)))
    return _Tried(explanation=explanation, log_weight=float(np.log(suspect.weight)) + average)


def _fine(values: Floats, predicted: Floats) -> tuple[Floats, Floats]:
    """Return values and readings with more between those that were solved, by straight lines."""
    steps = np.arange(len(values))
    dense = np.linspace(0.0, len(values) - 1.0, (len(values) - 1) * FINE + 1)
    readings = [np.interp(dense, steps, predicted[:, key]) for key in range(predicted.shape[1])]
    return np.interp(dense, steps, values), np.stack(readings, axis=1)


def _range(values: Floats, misfits: Floats) -> tuple[float, float]:
    """Return between which values the misfit is no more than 2.71 over its least: nine in ten, one figure."""
    inside = values[misfits <= misfits.min() + float(chi2.isf(0.1, 1))]
    return float(inside.min()), float(inside.max())


def _shared(tried: list[_Tried]) -> list[Explanation]:
    """Return the explanations with their shares of what is sure, the surest first."""
    logs = np.array([one.log_weight for one in tried])
    shares = np.exp(logs - np.logaddexp.reduce(logs))
    explained = [
        Explanation(**{**vars(one.explanation), "sure": float(share)}) for one, share in zip(tried, shares, strict=True)
    ]
    of_part: dict[str | None, float] = {}
    for one in explained:
        of_part[one.part] = of_part.get(one.part, 0.0) + one.sure
    return sorted(explained, key=lambda one: (-of_part[one.part], str(one.part), -one.sure))
