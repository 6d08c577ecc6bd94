"""What all reports share: quantities and worded sentences."""

from pydantic import BaseModel, ConfigDict

from leadsman.core.wording import Quantity, Unit, Wording


class Report(BaseModel):
    """Base of all reports."""

    model_config = ConfigDict(extra="forbid")


class QuantityReport(Report):
    """A number to be shown in the user's units."""

    value: float
    unit: Unit


Words = list[str | QuantityReport]


def words(wording: Wording) -> Words:
    return [
        QuantityReport(value=part.value, unit=part.unit) if isinstance(part, Quantity) else part for part in wording
    ]
