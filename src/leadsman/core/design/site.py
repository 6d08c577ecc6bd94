"""The farm and the places on it."""

from typing import Annotated

from pydantic import Field

from leadsman.core.base.pattern import NOTE_PATTERN, TEXT_PATTERN
from leadsman.core.design.base import FlowLpm, Ground, Id, Name, Part, Plan


class Anchor(Part):
    """Where on the globe the site's east 0, north 0 lies [degrees, WGS 84]."""

    latitude_deg: Annotated[float, Field(ge=-80, le=84)]
    longitude_deg: Annotated[float, Field(ge=-180, le=180)]


class Site(Part):
    """The farm: heights above one datum, altitude for air pressure, water temperature for friction.

    `look_every_h` is how long passes between looks at the troughs; `hose_m` is how far the hose that goes from tap to
    tap reaches; `post_m` how far apart the fence posts stand that pipe is laid along; `currency` what prices are in
    (ISO 4217).
    """

    name: Name
    altitude_m: Annotated[float, Field(ge=-500, le=5_000)] = 0.0
    water_c: Annotated[float, Field(ge=0, le=60)] = 10.0
    latitude_deg: Annotated[float, Field(ge=-66, le=66)] | None = None
    anchor: Anchor | None = None
    look_every_h: Annotated[float, Field(ge=1, le=1_008)] = 12.0
    hose_m: Annotated[float, Field(gt=0, le=500)] | None = None
    post_m: Annotated[float, Field(ge=0.5, le=50)] | None = None
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")] = "USD"
    note: Annotated[str, Field(max_length=500, pattern=NOTE_PATTERN)] = ""

    @property
    def has_latitude(self) -> bool:
        """Whether it is said on which side of the equator it lies."""
        return self.latitude_deg is not None or self.anchor is not None

    @property
    def is_southern(self) -> bool:
        """Whether it lies south of the equator; not, where nobody said."""
        anchored = 0.0 if self.anchor is None else self.anchor.latitude_deg
        return (anchored if self.latitude_deg is None else self.latitude_deg) < 0.0


class Place(Part):
    """A named point on the ground; with `draw_lpm`, a fixed draw there."""

    id: Id
    name: Name | None = None
    east_m: Plan
    north_m: Plan
    ground_m: Ground
    height_error_m: Annotated[float, Field(ge=0, le=500)] | None = None
    height_from: Annotated[str, Field(max_length=60, pattern=TEXT_PATTERN)] | None = None
    draw_lpm: FlowLpm = 0.0
