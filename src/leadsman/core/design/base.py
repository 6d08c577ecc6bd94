"""What every part of the document shares: strictness, and the ranges of its quantities."""

from datetime import date
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from leadsman.core.base.fault import fault as fault
from leadsman.core.base.pattern import DATE_PATTERN, ID_PATTERN, TEXT_PATTERN

FIRST_YEAR, LAST_YEAR = 1800, 2200


def _day(text: str) -> str:
    """Return the text where it is a day of the calendar, in a year that somebody plans or has records for."""
    try:
        day = date.fromisoformat(text)
    except ValueError:
        raise fault("a day of the calendar, as 2026-05-31") from None
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        raise fault(f"a day of the years {FIRST_YEAR} to {LAST_YEAR}")
    return text


Day = Annotated[str, Field(pattern=DATE_PATTERN), AfterValidator(_day)]
Id = Annotated[str, Field(pattern=ID_PATTERN)]
Name = Annotated[str, Field(min_length=1, max_length=120, pattern=TEXT_PATTERN)]
Ground = Annotated[float, Field(ge=-500, le=9_000)]
Plan = Annotated[float, Field(ge=-1e7, le=1e7)]
Length = Annotated[float, Field(gt=0, le=100_000)]
Dimension = Annotated[float, Field(ge=0.02, le=1_000)]  # the smallest cups and pots are wider and deeper
BoreMm = Annotated[float, Field(ge=1, le=2_000)]
RoughnessMm = Annotated[float, Field(ge=0, le=50)]
LossCoefficient = Annotated[float, Field(ge=0, le=100_000)]
Kv = Annotated[float, Field(gt=0, le=10_000)]
FlowLpm = Annotated[float, Field(ge=0, le=100_000)]
Assumed = Annotated[
    list[Annotated[str, Field(min_length=1, max_length=40, pattern=TEXT_PATTERN)]], Field(max_length=40)
]
PressureKpa = Annotated[float, Field(ge=0, le=10_000)]


class Part(BaseModel):
    """Base of everything in the document."""

    model_config = ConfigDict(strict=True, extra="forbid", frozen=True, allow_inf_nan=False)
