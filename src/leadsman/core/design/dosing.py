"""What is mixed into water for plants: a recipe, the water that it goes into, and how often."""

from typing import Annotated, Literal

from pydantic import Field

from leadsman.core.base.measures import Measure
from leadsman.core.design.base import Id, Name, Part


class Dosing(Part):
    """A recipe for the water of a vessel: an `amount` for so many litres, as the packet says.

    Into the `reservoir` all that tops up comes at strength; into the `pot` plain water comes by a float, and a dose
    goes every so many days. `share` is how much of the packet's dose is given. `taken_share` is how strong what plants
    take is against what they stand in; `air_share` what of the water that is used the air takes.
    """

    id: Id
    name: Name | None = None
    vessel: Id
    into: Literal["reservoir", "pot"] = "reservoir"
    amount: Annotated[float, Field(gt=0, le=1e6)]
    measure: Measure
    per_l: Annotated[float, Field(gt=0, le=1e6)]
    share: Annotated[float, Field(gt=0, le=5)] = 1.0
    every_days: Annotated[float, Field(gt=0, le=365)] = 7.0
    taken_share: Annotated[float, Field(ge=0, le=2)] = 0.8
    air_share: Annotated[float, Field(ge=0, lt=1)] = 0.1
