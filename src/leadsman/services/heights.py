"""The client of a height service: asks in batches, waits so long and no longer, and says in words what went wrong."""

import json
import urllib.error
import urllib.request
from collections.abc import Sequence
from dataclasses import dataclass
from http.client import HTTPException
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from leadsman.core.survey.survey_file import LEAST_HEIGHT_M, MOST_HEIGHT_M

WAIT_S = 6.0
TRIES = 2
BATCH = 500
LARGEST_BYTES = 1_000_000


class HeightsUnavailable(Exception):
    """The service gives no heights that can be used; says why."""


class _Answer(BaseModel):
    model_config = ConfigDict(extra="ignore", allow_inf_nan=False)

    heights_m: list[float | None]
    error_m: Annotated[float, Field(gt=0, le=500)]
    source: Annotated[str, Field(min_length=1, max_length=120)]


@dataclass(frozen=True, kw_only=True)
class ServiceHeights:
    """Heights of the points asked for [m], None where the service has none; half-width of their error [m]; whose."""

    heights_m: list[float | None]
    error_m: float
    source: str


def ask_heights(address: str, degrees: Sequence[tuple[float, float]], wait_s: float = WAIT_S) -> ServiceHeights:
    """Return a service's heights at longitudes and latitudes.

    Args:
        address: where the service is, without "/heights".
        wait_s: how long one answer may take [s]; one that breaks off or says 5xx is asked for once more.
    Raises:
        HeightsUnavailable: no answer, one that refuses, or one that cannot be heights.
    """
    found: list[float | None] = []
    error, source = 0.0, ""
    for first in range(0, len(degrees), BATCH):
        batch = [list(pair) for pair in degrees[first : first + BATCH]]
        answer = _ask(f"{address.rstrip('/')}/heights", batch, wait_s)
        found += answer.heights_m
        error, source = max(error, answer.error_m), answer.source
    return ServiceHeights(heights_m=found, error_m=error, source=source)


def _ask(url: str, points: list[list[float]], wait_s: float) -> _Answer:
    request = urllib.request.Request(
        url, json.dumps({"points": points}).encode(), {"Content-Type": "application/json"}, method="POST"
    )
    why = ""
    for _ in range(TRIES):
        try:
            with urllib.request.urlopen(request, timeout=wait_s) as answer:
                return _checked(answer.read(LARGEST_BYTES), len(points))
        except urllib.error.HTTPError as error:
            why = f"it answers {error.code}"
            if error.code < 500:
                break
        except TimeoutError:
            raise HeightsUnavailable(f"it does not answer within {wait_s:g} seconds") from None
        except (urllib.error.URLError, HTTPException, OSError) as error:
            if isinstance(getattr(error, "reason", None), TimeoutError):
                raise HeightsUnavailable(f"it does not answer within {wait_s:g} seconds") from None
            why = "nothing answers there"
    raise HeightsUnavailable(why)


def _checked(text: bytes, count: int) -> _Answer:
    try:
        answer = _Answer.model_validate_json(text)
    except ValidationError:
        raise HeightsUnavailable("its answer cannot be read") from None
    if len(answer.heights_m) != count:
        raise HeightsUnavailable(f"it sent {len(answer.heights_m)} heights for {count} points")
    for height in answer.heights_m:
        if height is not None and not LEAST_HEIGHT_M <= height <= MOST_HEIGHT_M:
            raise HeightsUnavailable(f"it sent {height:g} m as a height")
    return answer
