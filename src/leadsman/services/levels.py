"""The client of a level sensor's service: asks for the last days, waits so long and no longer, says what went wrong."""

import json
import urllib.error
import urllib.parse
import urllib.request
from dataclasses import dataclass
from datetime import datetime
from http.client import HTTPException
from typing import Annotated

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

WAIT_S = 6.0
LARGEST_BYTES = 2_000_000
MOST_READINGS = 5_000


class LevelsUnavailable(Exception):
    """The service gives no levels that can be used; says why."""


class _Answer(BaseModel):
    model_config = ConfigDict(extra="ignore", allow_inf_nan=False)

    readings: Annotated[
        list[tuple[AwareDatetime, Annotated[float, Field(ge=-10, le=100)]]], Field(max_length=MOST_READINGS)
    ]
    source: Annotated[str, Field(min_length=1, max_length=120)]


@dataclass(frozen=True, kw_only=True)
class ServiceLevels:
    """Times and levels over the floor [m], in the order in which they came; whose they are."""

    readings: list[tuple[datetime, float]]
    source: str


def ask_levels(address: str, figures: dict[str, str | float], wait_s: float = WAIT_S) -> ServiceLevels:
    """Return a tank's levels of the last days.

    Args:
        address: where the service is, without "/levels".
        figures: the vessel, the days wanted, and what the plan knows of it.
        wait_s: how long the answer may take [s].
    Raises:
        LevelsUnavailable: no answer, one that refuses, or one that cannot be levels.
    """
    url = f"{address.rstrip('/')}/levels?{urllib.parse.urlencode(figures)}"
    try:
        with urllib.request.urlopen(url, timeout=wait_s) as answer:
            read = _Answer.model_validate(json.loads(answer.read(LARGEST_BYTES)))
    except urllib.error.HTTPError as error:
        raise LevelsUnavailable(f"it answers {error.code}") from None
    except TimeoutError:
        raise LevelsUnavailable(f"it does not answer within {wait_s:g} seconds") from None
    except (ValidationError, ValueError):
        raise LevelsUnavailable("its answer cannot be read") from None
    except (urllib.error.URLError, HTTPException, OSError) as error:
        if isinstance(getattr(error, "reason", None), TimeoutError):
            raise LevelsUnavailable(f"it does not answer within {wait_s:g} seconds") from None
        raise LevelsUnavailable("nothing answers there") from None
    return ServiceLevels(readings=list(read.readings), source=read.source)
