"""How much work judging a design is, before it is begun."""

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design import Design

# Our own, measured: 300,000 take about a minute of one processor and a third of a gigabyte. Each outlet is judged alone
# too, and each height's error is followed to every outlet: both grow with the lines.
MOST_WORK = 400_000
LINES_COUNT = 0.2


def work_of(design: Design) -> float:
    """Return the work of judging a design, in lines times outlets [-]."""
    lines = len(design.lines)
    return lines * (len(design.outlets) + LINES_COUNT * lines)


def require_workable(design: Design) -> None:
    """Refuse a design that would take minutes and gigabytes.

    Raises:
        DesignFaults: it has too many lines and outlets; it can be kept, and solved with `leadsman solve`.
    """
    if work_of(design) > MOST_WORK:
        raise DesignFaults(
            [
                Fault(
                    path="/document",
                    code="too_much_work",
                    found=f"a plan with {len(design.lines):,} lines and {len(design.outlets):,} outlets",
                    allowed="a plan as with 550 lines and 550 outlets, or 1,300 lines and a few: split it by tank",
                )
            ]
        )
