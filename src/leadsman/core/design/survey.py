"""Heights as people measure them: level books."""

from typing import Annotated

from pydantic import Field, model_validator

from leadsman.core.design.base import Id, Name, Part, fault

Staff = Annotated[float, Field(ge=-1, le=10)]


class StaffReading(Part):
    """A point of a level book: a place of the design or any other, with what was read on the staff there.

    `back_m` is read towards a point whose height is known, `fore_m` to one before the level moves, `mid_m` between.
    """

    place: Id | None = None
    name: Name | None = None
    back_m: Staff | None = None
    mid_m: Staff | None = None
    fore_m: Staff | None = None

    @model_validator(mode="after")
    def read_once(self) -> "StaffReading":
        if (self.mid_m is None) == (self.back_m is None and self.fore_m is None):
            raise fault("a mid_m alone, or a back_m, a fore_m, or both")
        return self


class LevelBook(Part):
    """Readings of a builder's level and a staff in their order, from a point of known height on.

    `length_km` is the way walked there and back, by which the misclosure that is let pass grows.
    """

    id: Id
    name: Name | None = None
    readings: Annotated[list[StaffReading], Field(max_length=2_000)] = []
    length_km: Annotated[float, Field(gt=0, le=1_000)] | None = None

    @model_validator(mode="after")
    def can_be_reduced(self) -> "LevelBook":
        for number, reading in enumerate(self.readings):
            first, last = number == 0, number == len(self.readings) - 1
            if first and (reading.back_m is None or reading.fore_m is not None):
                raise fault("a first reading that is a back_m alone")
            if not first and not last and reading.fore_m is not None and reading.back_m is None:
                raise fault(f"a back_m beside the fore_m of reading {number + 1}: the level moves there")
            if not first and reading.back_m is not None and reading.fore_m is None:
                raise fault(f"a fore_m beside the back_m of reading {number + 1}")
        return self
