"""Kitchen measures and weights, exact by definition, and the fewest of them that make up an amount."""

from collections.abc import Sequence
from fractions import Fraction
from typing import Literal

VolumeMeasure = Literal[
    "mL", "L", "tsp", "tbsp", "fl oz", "cup", "pint", "quart", "gallon", "metric tsp", "metric tbsp", "metric cup"
]
MassMeasure = Literal["g", "kg", "oz", "lb"]
Measure = Literal[VolumeMeasure, MassMeasure]

# a US gallon is 231 cubic inches, an inch 25.4 mm: NIST Handbook 44, appendix C
_GALLON = 231 * Fraction(254, 100) ** 3
MILLILITRES: dict[str, Fraction] = {
    "mL": Fraction(1), "L": Fraction(1000), "gallon": _GALLON, "quart": _GALLON / 4, "pint": _GALLON / 8,
    "cup": _GALLON / 16, "fl oz": _GALLON / 128, "tbsp": _GALLON / 256, "tsp": _GALLON / 768,
    "metric tsp": Fraction(5), "metric tbsp": Fraction(15), "metric cup": Fraction(250),
}  # fmt: skip
# a pound is 0.45359237 kg: International Yard and Pound Agreement of 1959
GRAMS: dict[str, Fraction] = {
    "g": Fraction(1), "kg": Fraction(1000), "lb": Fraction(45_359_237, 100_000), "oz": Fraction(45_359_237, 1_600_000),
}  # fmt: skip
US_SPOONS = ("cup", "tbsp", "tsp")
METRIC_SPOONS = ("metric cup", "metric tbsp", "metric tsp")
SMALLEST_SHARE = 4  # of a teaspoon: what spoons are sold as


def is_mass(measure: Measure) -> bool:
    """Whether a measure weighs, and does not fill a spoon."""
    return measure in GRAMS


def in_base(amount: float, measure: Measure) -> float:
    """Return an amount in g of what is weighed, in mL of what is measured out.

    >>> round(in_base(20, "tsp") / in_base(1, "cup"), 3)
    0.417
    """
    factor = GRAMS[measure] if is_mass(measure) else MILLILITRES[measure]
    return float(Fraction(amount) * factor)


def spoons(millilitres: float, measures: Sequence[str] = US_SPOONS) -> list[tuple[float, str]]:
    """Return an amount as the largest measures first, its last to a quarter of the smallest.

    >>> spoons(in_base(20, "tsp"))
    [(6.0, 'tbsp'), (2.0, 'tsp')]
    """
    smallest = MILLILITRES[measures[-1]] / SMALLEST_SHARE
    quarters = round(Fraction(millilitres) / smallest)
    found = []
    for measure in measures:
        each = int(MILLILITRES[measure] / smallest)
        count = quarters / SMALLEST_SHARE if measure == measures[-1] else quarters // each
        if count:
            found.append((float(count), measure))
        quarters -= quarters // each * each if measure != measures[-1] else quarters
    return found
