"""Animals: what they are, how many, and how they drink."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.design.base import Day, Id, Name, Part, fault


class HeadCount(Part):
    """How many animals there are from a day on."""

    from_: Annotated[Day, Field(alias="from")]
    head: Annotated[int, Field(ge=0, le=1_000_000)]


class Drinking(Part):
    """How a herd drinks: spread over the day with water near, or as a mob that comes to the trough at once.

    `share` of the herd comes within `within_min`, each drinks its part of the day's demand (`visits` a day) at
    `rate_lpm` and needs `width_m` of rim; after `patience_min` of waiting it is counted as left waiting.
    """

    pattern: Literal["near", "mob"]
    share: Annotated[float, Field(gt=0, le=1)] | None = None
    within_min: Annotated[float, Field(gt=0, le=600)] | None = None
    visits: Annotated[float, Field(ge=1, le=48)] | None = None
    rate_lpm: Annotated[float, Field(gt=0, le=60)] | None = None
    width_m: Annotated[float, Field(gt=0, le=5)] | None = None
    patience_min: Annotated[float, Field(gt=0, le=600)] | None = None
    daylight_h: Annotated[float, Field(gt=0, le=24)] | None = None
    peak_factor: Annotated[float, Field(ge=1, le=20)] | None = None


class Herd(Part):
    """Animals of one class that drink at one outlet; `intake_lpd` is the user's own litres a head a day.

    With `intake_lpd` the class may be the user's own too. `counts` change the heads over the season. Where weight or
    milk are unknown, what is usual for the class is taken. `calves` run at foot and drink besides.
    """

    id: Id
    name: Name | None = None
    animal: Annotated[str, Field(alias="class", min_length=1, max_length=60, pattern=TEXT_PATTERN)]
    head: Annotated[int, Field(ge=0, le=1_000_000)]
    weight_kg: Annotated[float, Field(gt=0, le=2_000)] | None = None
    milk_kgd: Annotated[float, Field(ge=0, le=100)] | None = None
    feed_dry_percent: Annotated[float, Field(ge=5, le=100)] | None = None
    calves: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    outlet: Id
    intake_lpd: Annotated[float, Field(gt=0, le=500)] | None = None
    counts: Annotated[list[HeadCount], Field(max_length=400)] = Field(default_factory=list)
    drinking: Drinking | None = None

    @model_validator(mode="after")
    def counts_in_order(self) -> "Herd":
        days = [count.from_ for count in self.counts]
        if days != sorted(set(days)):
            raise fault("counts whose days rise")
        return self

    def head_on(self, date: str | None) -> int:
        """Return how many there are on a day; `head` before the first count, and where no day is given."""
        now = [count.head for count in self.counts if date is not None and count.from_ <= date]
        return now[-1] if now else self.head
