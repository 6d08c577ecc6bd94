"""What things cost at this site: the price book, and what stands, digging and bringing things cost."""

from typing import Annotated, Literal

from pydantic import Field

from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.design.base import Day, Part

Money = Annotated[float, Field(ge=0, le=1e6)]
ROW_PATTERN = r"^[a-z0-9][a-z0-9._-]{0,99}$"  # a product, or what a row of the parts list is made from
Digging = Literal["hired out", "hired machine", "by hand"]


class Price(Part):
    """A price that somebody asked for, in the site's currency: of one piece; of pipe and gutter, of a metre.

    `product` is a product of the catalogue or of the user's own, or a row of the parts list. Of one shop the latest
    counts; of several shops the cheapest. What is `used` counts only where used things are bought.
    """

    product: Annotated[str, Field(pattern=ROW_PATTERN)]
    price: Money
    shop: Annotated[str, Field(max_length=80, pattern=TEXT_PATTERN)] | None = None
    date: Day | None = None
    used: bool = False


class Costs(Part):
    """What is paid beside the parts, in the site's currency; typical prices where nothing is said.

    `stand_per_m_t` is of a stand a metre high for a tonne; `digging` is who digs: a contractor by the metre, a machine
    hired by the day, or nobody who is paid. `trip` is bringing one load of `load_kg`. On leased ground `lease_years`
    are left, and what is lifted again keeps `kept_share` of its price. `buy_used` takes used things where the price
    book has them.
    """

    stand_per_m_t: Money | None = None
    digging: Digging = "hired out"
    digging_per_m: Money | None = None
    machine_per_day: Money | None = None
    machine_m_per_day: Annotated[float, Field(ge=1, le=10_000)] | None = None
    trip: Money | None = None
    load_kg: Annotated[float, Field(ge=1, le=100_000)] | None = None
    lease_years: Annotated[float, Field(ge=0.5, le=100)] | None = None
    kept_share: Annotated[float, Field(ge=0, le=1)] | None = None
    buy_used: bool = False
