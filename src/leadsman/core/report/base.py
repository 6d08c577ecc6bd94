"""What all reports share: quantities and worded sentences."""

from pydantic import BaseModel, ConfigDict

from leadsman.core.base.unit_system import System, quantity_text
from leadsman.core.base.wording import Quantity, Unit, Wording


class Report(BaseModel):
    """Base of all reports."""

    model_config = ConfigDict(extra="forbid")


class QuantityReport(Report):
    """A number to be shown in the user's units."""

    value: float
    unit: Unit
    digits: int | None = None


Words = list[str | QuantityReport]


def quantity_report(quantity: Quantity) -> QuantityReport:
    """Return a quantity as reports hold it."""
    return QuantityReport(value=quantity.value, unit=quantity.unit, digits=quantity.digits)


def words(wording: Wording) -> Words:
    """Return a wording as reports hold it."""
    return [quantity_report(part) if isinstance(part, Quantity) else part for part in wording]


def spoken(told: Words, system: System = "metric") -> str:
    """Return a reported wording as one line of text in the units of a system."""
    return "".join(
        part
        if isinstance(part, str)
        else quantity_text(Quantity(value=part.value, unit=part.unit, digits=part.digits), system)
        for part in told
    )
