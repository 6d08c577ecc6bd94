"""Troughs for a herd and tanks for a system: what each holds of a day's need, costs a year, stands on, does in ice."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue import VesselProduct, vessels
from leadsman.core.catalogue.material import material_of
from leadsman.core.design import OutletBase, Vessel, label
from leadsman.core.design.price_book import price_of
from leadsman.core.design.store import shape_of
from leadsman.core.parts.compare.comparison import ComparedRow, Comparison, litres, money

MOVED_KG = 60.0  # that two people carry empty; ours
COLUMNS = ["Holds", "Of a day's need", "Rim", "Price", "A year", "In ice", "Stands on", "Moves", "Light"]


def troughs(analysis: Analysis, outlet: OutletBase) -> Comparison:
    """Return the catalogue's troughs beside the need of the herds that drink at an outlet, else of all."""
    here = [herd for herd in analysis.herds if outlet.id in herd.outlets]
    daily_l = sum(herd.daily_l for herd in here or analysis.herds)
    whose = ", ".join(label(herd.herd) for herd in here) if here else "all herds"
    return _compared(
        analysis,
        "troughs",
        f"Troughs for {whose}",
        ("trough",),
        daily_l,
        analysis.model.layout.vessels.get(outlet.fills or ""),
    )


def tanks(analysis: Analysis, outlet: OutletBase) -> Comparison:
    """Return the catalogue's tanks beside a day's need of the system of an outlet."""
    system = analysis.system_of(outlet.id)
    daily_l = analysis.demand_m3s(outlet.id) * 86_400.0 / LITRE_M3
    stores = system.stores if system else ()
    title = f"Tanks for what {label(stores[0])} feeds" if stores else "Tanks"
    return _compared(analysis, "tanks", title, ("tank",), daily_l, stores[0] if stores else None)


def _compared(
    analysis: Analysis, key: str, title: str, roles: tuple[str, ...], daily_l: float, now: Vessel | None
) -> Comparison:
    rows = [_row(analysis, product, daily_l, now) for product in vessels().values() if product.role in roles]
    need = say("A day's need: {}.", litres(daily_l)) if daily_l > 0.0 else say("No herd is said to drink there yet.")
    return Comparison(
        key=key,
        title=title,
        columns=COLUMNS,
        rows=rows,
        notes=[
            need,
            say(
                "Sizes, prices, years kept and what ice does are typical, from memory, rough. A light trough moves "
                "with the herd and cracks in ice; concrete, rings and tyres stay and last. A full tank can crush: "
                "level ground, and "
                "someone competent for what it stands on."
            ),
        ],
    )


def _row(analysis: Analysis, product: VesselProduct, daily_l: float, now: Vessel | None) -> ComparedRow:
    vessel = Vessel.model_validate({"id": "sold", "place": "here", "shape": product.shape, "level_m": 0.0})
    holds_l = shape_of(vessel).volume_m3(vessel.brim_m) / LITRE_M3
    made = material_of(product.product_id)
    price = price_of(analysis.document, product)
    yearly = say("–")
    if price is not None and made is not None:
        yearly = money(analysis.document, price / made.life_years, own=True)
    share = say("{} %", f"{100.0 * holds_l / daily_l:.0f}") if daily_l > 0.0 and holds_l < 3.0 * daily_l else say("–")
    if daily_l > 0.0 and holds_l >= 3.0 * daily_l:
        share = say("{} days", f"{holds_l / daily_l:.0f}")
    return ComparedRow(
        name=product.name,
        cells=[
            say("{}", litres(holds_l)), share, say("{}", Quantity(value=vessel.shape.inside_m, unit="m", digits=2)),
            money(analysis.document, price, own=True), yearly,
            say(made.in_ice) if made else say("–"), say(made.base) if made else say("–"), _moves(product),
            say("dark" if made.dark else "light comes in") if made else say("–"),
        ],
        is_now=now is not None and now.product == product.product_id,
    )  # fmt: skip


def _moves(product: VesselProduct) -> Wording:
    if product.empty_kg is None:
        return say("–")
    weight = Quantity(value=product.empty_kg, unit="kg")
    return say("{}, two carry it empty" if product.empty_kg <= MOVED_KG else "{}, stays", weight)
