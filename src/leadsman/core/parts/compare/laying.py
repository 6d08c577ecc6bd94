"""Pipe on the surface or in a trench: digging, hours, money, slack, draining."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import say
from leadsman.core.design.site_costs import trench_price_per_m
from leadsman.core.parts.compare.comparison import ComparedRow, Comparison, litres, metres, money
from leadsman.core.parts.work_plan import DIG_MIN_PER_M, ROLL_OUT_MIN_PER_M, TWO_TAKE

SHORTENS_MM_PER_M_K, SWING_K = (
    0.2,
    40.0,
)  # of PE pipe, and between a black line at noon and a frost: typical, from memory


def surface_or_trench(analysis: Analysis) -> Comparison:
    """Return all pipe on the surface beside all of it in a trench, and the plan as it is."""
    design = analysis.document
    length_m = sum(line.pipe_length_m for line in design.lines)
    buried_m = sum(line.pipe_length_m for line in design.lines if line.cover_m > 0.0)
    metre = trench_price_per_m(design)
    holds_m3 = sum(pipe.volume_m3 for line in design.lines for pipe in analysis.model.reaches_of_line(line.id))

    def row(name: str, trench_m: float, says: str, is_now: bool = False) -> ComparedRow:
        minutes = ROLL_OUT_MIN_PER_M * length_m + DIG_MIN_PER_M * trench_m
        shrinks_m = SHORTENS_MM_PER_M_K / 1e3 * SWING_K * (length_m - trench_m)
        hours = say("{} h, {} h", f"{minutes / 60.0:.0f}", f"{minutes / 60.0 * TWO_TAKE:.0f}")
        drained = holds_m3 * (length_m - trench_m) / length_m if length_m else 0.0
        return ComparedRow(name=name, is_now=is_now, cells=[
            say("{}", metres(trench_m)), hours,
            money(design, None if metre.price is None else metre.price * trench_m, own=True),
            say("{}", metres(shrinks_m, 1)), say("{}", litres(drained / LITRE_M3)), say(says),
        ])  # fmt: skip

    return Comparison(
        key="surface-or-trench",
        title="Pipe on the surface, or in a trench",
        columns=[
            "Trench", "By hand, one and two people", "By a hired machine", "Slack to leave", "To drain before frost",
            "What it means",
        ],
        rows=[
            row("As the plan has it", buried_m, "by its burial depths", is_now=True),
            row("All on the surface", 0.0, "moved when it proves wrong; thaws by noon, freezes by night; sun, "
                "hooves, mowers"),
            row("All in a trench", length_m, "cool and out of the way; a leak is found late; below frost depth it "
                "needs no draining"),
        ],
        notes=[say(
            "Hours are ours; {} slack for 0.2 mm a metre and degree over 40 "
            "degrees (typical, from memory). Call the utility locating service before digging.",
            "the machine's price typical, from memory;" if metre.typical else "the machine's price is your own;",
        )],
    )  # fmt: skip
