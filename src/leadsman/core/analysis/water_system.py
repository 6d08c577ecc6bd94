"""Systems: the stores and outlets that water can flow between. Two in one plan share nothing but the page."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from leadsman.core.base.cached import cached_property
from leadsman.core.design import InflowBase, OutletBase, Vessel
from leadsman.core.design.layout import Layout
from leadsman.core.design.store import volume_between_m3
from leadsman.core.farm.demand import HerdDemand
from leadsman.core.farm.growing import OtherDemand
from leadsman.core.steady.reach import Reach


@dataclass(frozen=True, kw_only=True)
class WaterSystem:
    """Stores, the outlets that their water comes to, and what refills them.

    `stores` has the one that most outlets draw from first; `down_to_m` gives by store and outlet the height [m] below
    which it gives that outlet nothing, of the pairs where it gives something while brimful. A source under pressure is
    no store; where a system has nothing else it stands for one, and holds nothing. Its `inflows` have what it gives.
    """

    layout: Layout
    stores: list[Vessel]
    outlets: list[OutletBase]
    inflows: list[InflowBase]
    down_to_m: Reach

    @property
    def name(self) -> str:
        """What it is told apart by: its first store's name."""
        return self.stores[0].name or self.stores[0].id

    def serves(self, part_id: str) -> bool:
        """Whether an outlet is one of its own, or a vessel is one of its stores or filled by one of its outlets."""
        return part_id in self._parts

    @property
    def levels_m(self) -> dict[str, float]:
        """The level of each store now [m above its floor], by its id."""
        return {store.id: store.level_m for store in self.stores}

    @cached_property
    def _parts(self) -> set[str]:
        own = {outlet.id for outlet in self.outlets} | {store.id for store in self.stores}
        return own | {outlet.fills for outlet in self.outlets if outlet.fills is not None}

    def daily_l(self, herds: Iterable[HerdDemand], others: Iterable[OtherDemand]) -> float:
        """Return what all that is on it needs in a day [L]; a herd with several places drinks the same at each."""
        litres = sum(
            demand.daily_l * sum(self.serves(outlet_id) for outlet_id in demand.outlets) / len(demand.outlets)
            for demand in herds
        )
        return litres + sum(demand.daily_l for demand in others if self.serves(demand.where))

    def outlets_for(self, needed_at: set[str]) -> list[OutletBase]:
        """Return its outlets at which something is needed, there or in what they fill; all where nothing is."""
        return [outlet for outlet in self.outlets if {outlet.id, outlet.fills} & needed_at] or self.outlets

    def usable_m3(self, outlet: OutletBase, levels_m: dict[str, float]) -> float:
        """Return what of its stores can flow to an outlet [m3].

        Args:
            levels_m: the level of each store [m above its floor], by its id.
        """
        return sum(self.usable_of_m3(store, outlet, levels_m[store.id]) for store in self.stores)

    def usable_of_m3(self, store: Vessel, outlet: OutletBase, level_m: float) -> float:
        """Return what of one store at a level [m above its floor] can flow to an outlet [m3]."""
        down_to = self.down_to_m[store.id].get(outlet.id)
        if down_to is None or store.id in self.layout.sources:
            return 0.0
        return volume_between_m3(store, max(store.outlet_m, down_to - self.layout.floor_m(store)), level_m)

    def least_usable_m3(self, outlets: Sequence[OutletBase], levels_m: dict[str, float]) -> float:
        """Return what of its stores can flow to that of some outlets which least can flow to [m3]."""
        return self.usable_m3(self.tightest(outlets, levels_m), levels_m)

    def tightest(self, drinkers: Sequence[OutletBase], levels_m: dict[str, float]) -> OutletBase:
        """Return the one of some outlets that the least of the stores can flow to."""
        return min(drinkers, key=lambda outlet: self.usable_m3(outlet, levels_m))


def water_systems(
    layout: Layout, reach: Reach, ranked: Sequence[str], source_inflows: Sequence[InflowBase] = ()
) -> list[WaterSystem]:
    """Return the systems of a plan, of its outlets and the vessels that give any of them water while brimful.

    Args:
        source_inflows: what its sources under pressure give.
        reach: by vessel and outlet, the height below which it gives nothing.
        ranked: vessels in the order in which a system names them; others come after these.
    """
    gives = {vessel_id: _given(layout, vessel_id, outlets) for vessel_id, outlets in reach.items()}
    order = [vessel_id for vessel_id in dict.fromkeys([*ranked, *layout.vessels]) if gives.get(vessel_id)]
    groups: list[tuple[set[str], list[str]]] = []  # outlets, and the stores that give some of them water
    for vessel_id in order:
        joined = [group for group in groups if group[0] & gives[vessel_id].keys()]
        outlets = set(gives[vessel_id]).union(*(outlets for outlets, _ in joined))
        groups = [group for group in groups if group not in joined]
        groups.append((outlets, [*(store for _, stores in joined for store in stores), vessel_id]))
    systems = [
        _system(layout, {store: gives[store] for store in sorted(stores, key=order.index)}, source_inflows)
        for _, stores in groups
    ]
    return sorted(systems, key=lambda system: order.index(system.stores[0].id))


def _system(layout: Layout, gives: Reach, source_inflows: Sequence[InflowBase]) -> WaterSystem:
    given = {outlet_id for outlets in gives.values() for outlet_id in outlets}
    standing = [layout.vessels[store] for store in gives if store in layout.sources]
    return WaterSystem(
        layout=layout,
        stores=[layout.vessels[store] for store in gives if store not in layout.sources] or [*standing],
        outlets=[outlet for outlet in layout.outlets.values() if outlet.id in given],
        inflows=[inflow for inflow in [*layout.design.inflows, *source_inflows] if inflow.fills in gives],
        down_to_m=gives,
    )


def _given(layout: Layout, vessel_id: str, outlets: dict[str, float]) -> dict[str, float]:
    vessel = layout.vessels[vessel_id]
    brim_m = layout.floor_m(vessel) + vessel.brim_m
    return {outlet_id: down_to for outlet_id, down_to in outlets.items() if down_to < brim_m}
