"""An entry of the log: something seen, measured, moved or mended, by whom and when."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from typing import Annotated, Any, Literal, Protocol, TypeVar
from uuid import UUID

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, model_validator

from leadsman.core.base.fault import fault
from leadsman.core.base.pattern import NOTE_PATTERN, TEXT_PATTERN

LogKind = Literal["note", "step", "timing", "gauge", "level", "look", "mend", "move", "service", "trip", "photo"]
# what has to be measured for a kind, with its range
MEASURED: dict[LogKind, dict[str, tuple[float, float]]] = {
    "timing": {"volume_l": (0.01, 10_000.0), "seconds": (0.1, 86_400.0)},
    "gauge": {"pressure_kpa": (-100.0, 5_000.0)},
    "level": {"level_m": (0.0, 100.0)},
    "trip": {"litres": (1.0, 100_000.0)},
}
Figure = float | int | bool | Annotated[str, Field(max_length=200)]
FigureName = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]


class LogEntry(BaseModel):
    """One entry as it was made, on a phone or here: its own id and time, so that it may be sent twice.

    `part` is the id of a part of the plan, `part_name` what it was called then; `figures` what was measured, with the
    unit in each key; `corrects` the id of an entry that this one corrects.
    """

    model_config = ConfigDict(extra="forbid")

    id: UUID
    kind: LogKind
    happened_at: AwareDatetime
    part: Annotated[str, Field(max_length=64)] | None = None
    part_name: Annotated[str, Field(max_length=120, pattern=TEXT_PATTERN)] | None = None
    who: Annotated[str, Field(max_length=60, pattern=TEXT_PATTERN)] | Literal[""] = ""
    said: Annotated[str, Field(max_length=2_000, pattern=NOTE_PATTERN)] = ""
    figures: Annotated[dict[FigureName, Figure], Field(max_length=30)] = {}
    corrects: UUID | None = None

    @model_validator(mode="after")
    def measures_what_it_says(self) -> "LogEntry":
        for key, (low, high) in MEASURED.get(self.kind, {}).items():
            value = self.figures.get(key)
            if not isinstance(value, (int, float)) or isinstance(value, bool) or not low <= value <= high:
                raise fault(f"figures with {key} from {low:g} to {high:g}")
        return self


class Noted(Protocol):
    """What sums over a long log read of an entry: as it came, or as it is kept."""

    @property
    def id(self) -> UUID: ...
    @property
    def kind(self) -> str: ...
    @property
    def happened_at(self) -> datetime: ...
    @property
    def figures(self) -> Mapping[str, Any]: ...
    @property
    def corrects(self) -> UUID | None: ...


Entry = TypeVar("Entry", bound=Noted)


def standing(entries: Iterable[Entry]) -> list[Entry]:
    """Return the entries that no other corrects, in their order."""
    given = list(entries)
    corrected = {entry.corrects for entry in given if entry.corrects is not None}
    return [entry for entry in given if entry.id not in corrected]
