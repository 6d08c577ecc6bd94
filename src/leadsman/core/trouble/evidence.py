"""What the last readings on the line say of each cause, before anything is looked at."""

from dataclasses import replace

from leadsman.core.calibration.fit import Calibration
from leadsman.core.trouble.cause import Cause
from leadsman.core.trouble.kinds import CauseKind

OF_LINE: tuple[CauseKind, ...] = ("tap_shut", "filter", "check_valve", "air", "kinked", "leak", "dirt")
LEAST, MOST = 0.3, 6.0  # times as often, where readings speak against a part and for it; ours


def weighed(found: list[Cause], calibration: Calibration | None) -> list[Cause]:
    """Return the causes with the parts that readings point at made likelier, and the others less so.

    Where the readings say nothing surely, they change little; air and leaks may come and go between reading and look.
    """
    if calibration is None:
        return found
    sure = {one.part: calibration.sure_of(one.part) for one in calibration.explanations if one.part is not None}
    return [replace(cause, weight=cause.weight * _times(cause, sure)) for cause in found]


def _times(cause: Cause, sure: dict[str, float]) -> float:
    if cause.kind in OF_LINE or cause.kind in ("seat", "store_empty"):
        share = sure.get(cause.part, 0.0)
        told = sum(sure.values())
        return 1.0 + told * (LEAST - 1.0) + share * (MOST - LEAST)
    return 1.0
