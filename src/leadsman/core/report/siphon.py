"""JSON of the lines that are declared siphons."""

from leadsman.core.analysis.running import Running
from leadsman.core.analysis.siphon_line import siphon_lines
from leadsman.core.base.units import LITRE_M3
from leadsman.core.report.base import Report


class SiphonReport(Report):
    """A siphon: its crest over the water drawn, the most it could be, what is left of that running, what primes it.

    `prime_l` is the leg that falls from the crest; with a foot valve the rising leg above the water is filled too.
    """

    line: str
    crest_at_m: float
    lift_m: float
    limit_m: float
    spare_m: float
    prime_l: float
    prime_with_foot_valve_l: float


def siphon_reports(running: Running) -> list[SiphonReport]:
    """Return every siphon of a design."""
    return [
        SiphonReport(
            line=line.line_id,
            crest_at_m=line.crest_at_m,
            lift_m=line.lift_m,
            limit_m=line.limit_m,
            spare_m=line.spare_m,
            prime_l=line.falling_m3 / LITRE_M3,
            prime_with_foot_valve_l=(line.falling_m3 + line.rising_m3) / LITRE_M3,
        )
        for line in siphon_lines(running)
    ]
