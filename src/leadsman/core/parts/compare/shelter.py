"""Open or closed: the tank in the sun or dark, the float seen or enclosed."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.leak import leak_of
from leadsman.core.base.errors import CoreError
from leadsman.core.base.units import HOUR_S, LITRE_M3
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import OutletBase, label
from leadsman.core.design.store import shape_of
from leadsman.core.farm.growing import reference_mm
from leadsman.core.parts.compare.comparison import ComparedRow, Comparison, litres, money

OPEN_WATER = 1.05  # of reference evapotranspiration, from open water: FAO 56, table 12, from memory
COVER_PRICE_M2 = 25.0  # of a lid or shade; typical, from memory, rough
GUARD_PRICE, CHAMBER_PRICE = 25.0, 70.0  # of a guard over a float, of a closed chamber; typical, from memory, rough
UNDER_LID_H = 168.0  # between looks under a lid: a week; ours


def sun_or_dark(analysis: Analysis) -> Comparison | None:
    """Return the plan's tanks open to the sky beside closed ones: what the air takes, what a cover costs."""
    tanks = [vessel for vessel in analysis.document.vessels if vessel.role in ("tank", "chamber")]
    if not tanks:
        return None
    area_m2 = sum(shape_of(tank).surface_m2(min(tank.level_m, tank.shape.inside_m)) for tank in tanks)
    try:
        air_mm = OPEN_WATER * reference_mm(analysis.document, analysis.scenario)
    except CoreError:
        air_mm = None
    lost = (
        say("not known: the case has no day or the site no latitude")
        if air_mm is None
        else say("{} a day", litres(air_mm * area_m2))
    )
    return Comparison(
        key="sun-or-dark",
        title="The tank in the sun, or dark and closed",
        columns=["Surface", "The air takes", "Price", "What it means"],
        rows=[
            ComparedRow(name="Open to the sun", cells=[
                say("{}", Quantity(value=area_m2, unit="m²", digits=1)), lost, money(analysis.document, 0.0),
                say("one school: the sun's ultraviolet holds growth down; leaves, birds and children get in, the "
                    "water is warm"),
            ]),
            ComparedRow(name="Closed, dark, shaded", cells=[
                say("{}", Quantity(value=area_m2, unit="m²", digits=1)), say("{} a day", litres(0.0)),
                money(analysis.document, COVER_PRICE_M2 * area_m2),
                say("the other: without light nothing grows, the water stays cool, nobody drowns; look in once a "
                    "season"),
            ]),
        ],
        notes=[say(
            "What open water loses: 1.05 of reference evapotranspiration on the case's day (FAO 56, from memory). A "
            "cover at a typical price for each square metre, from memory. Deep tanks drown children and animals: cover "
            "them."
        )],
    )  # fmt: skip


def seen_or_enclosed(analysis: Analysis, outlet: OutletBase) -> Comparison | None:
    """Return a float whose fall is seen beside one under a lid: what is lost until somebody notices."""
    leak = leak_of(analysis, outlet)
    if leak is None:
        return None
    look_h = analysis.document.site.look_every_h

    def lost(hours: float) -> Wording:
        most = leak.flow_m3s * hours * HOUR_S / LITRE_M3
        if leak.empty_s is not None and leak.empty_s < hours * HOUR_S:
            return say(
                "{}: the store is empty after {}",
                litres(leak.flow_m3s * leak.empty_s / LITRE_M3),
                duration(leak.empty_s),
            )
        return say("{}", litres(most))

    return Comparison(
        key="seen-or-enclosed",
        title=f"The float of {label(outlet)} in the open, guarded, or in its own chamber",
        columns=["Noticed after", "Lost by then, stuck open", "Price", "What it means"],
        rows=[
            ComparedRow(name="Its fall is seen", cells=[
                say("{} h", f"{look_h:g}"), lost(look_h), money(analysis.document, 0.0),
                say("a fault shows at every look; hooves, horns and beaks reach it"),
            ]),
            ComparedRow(name="Under a guard", cells=[
                say("{} h", f"{look_h:g}"), lost(look_h), money(analysis.document, GUARD_PRICE),
                say("seen through the bars, out of reach; the float has to stay clear of them"),
            ]),
            ComparedRow(name="In its own chamber under a lid", cells=[
                say("{} h", f"{UNDER_LID_H:g}"), lost(UNDER_LID_H), money(analysis.document, CHAMBER_PRICE),
                say("still water, room for an overflow, nothing touches it; nobody sees it run"),
            ]),
        ],
        notes=[say(
            "What it passes stuck open by itself, until the next look of this site ({} h), or a weekly look under "
            "the lid (ours). "
            "Prices typical, from memory.", f"{look_h:g}",
        )],
    )  # fmt: skip
