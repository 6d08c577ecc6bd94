"""Everything Leadsman says of a design, each part computed when first asked for."""

from dataclasses import dataclass

from leadsman.core.analysis.first_water import FirstWater, first_water
from leadsman.core.analysis.no_refill import NoRefill, drinking_vessels, no_refill
from leadsman.core.analysis.running import MOST_RANGED_ALONE, Running
from leadsman.core.analysis.timers import Clash, Watch, float_calls
from leadsman.core.analysis.transfer import day_inflows_m3, feeding, season_inflows_m3
from leadsman.core.analysis.water_system import WaterSystem, water_systems
from leadsman.core.analysis.watering import Watering, waterings
from leadsman.core.base.cached import cached_property
from leadsman.core.base.units import DAY_S, LITRE_M3, lpm_from_m3s
from leadsman.core.design import (
    Design,
    FloatValveOutlet,
    InflowBase,
    OutletBase,
    Place,
    PressureSourceBase,
    PumpInflow,
    RamInflow,
    RamSource,
    Scenario,
    SpringInflow,
    Timer,
    Vessel,
    label,
)
from leadsman.core.farm.balance import Balance, balance
from leadsman.core.farm.container_row import ContainerRow, container_rows
from leadsman.core.farm.daily_weather import DailyWeather, daily_weather
from leadsman.core.farm.day_demand import DAYLIGHT, hourly_l
from leadsman.core.farm.demand import HerdDemand, herd_demands
from leadsman.core.farm.grazing import Season, season
from leadsman.core.farm.growing import OtherDemand, leak_demand, other_demands
from leadsman.core.farm.pressure_source import PressureInflow
from leadsman.core.farm.season_demand import needed_at_some_time, season_demand_m3
from leadsman.core.farm.supply import StoreSeason, store_season
from leadsman.core.farm.transfer_run import Pool
from leadsman.core.farm.unattended import UnattendedFill, unattended_fill
from leadsman.core.farm.watering_spells import Spell, zone_spells
from leadsman.core.steady.reach import reach_of_vessels
from leadsman.core.steady.way import STILL_BELOW_M3S
from leadsman.core.survey.height_network import Heights, heights
from leadsman.core.survey.line_length import LineLength, line_lengths

LONGEST_LOOKED_AT_S = 14.0 * DAY_S
DEFAULT_DAYS_IN_HAND = 2.0  # ours, no source: a day to notice and a day to mend


@dataclass(frozen=True, kw_only=True)
class Lasts:
    """For how many days water lasts with no refill, and at which vessel it lacks first, where that was run."""

    days: float
    first: Vessel | None


class Analysis(Running):
    """A design with its answers: how it runs, who needs what and when, and whether what comes in is enough.

    Raises, when a part is asked for:
        DesignFaults, UnknownName, OutOfRange: as `solve` and `daily_intake` do.
    """

    @cached_property
    def tried(self) -> dict[str, "Analysis | None"]:
        """What was tried as a remedy, by its patch; None where that is no design."""
        return {}

    @cached_property
    def first_waters(self) -> dict[str, FirstWater]:
        """For each outlet that is meant to run and has a high point on its line: what the first water takes."""
        found = {outlet.id: first_water(self, outlet) for outlet in self.fed_outlets}
        return {outlet_id: leak for outlet_id, leak in found.items() if leak is not None}

    @cached_property
    def season(self) -> Season:
        """The grazing calendar day by day, in the heat of the chosen case."""
        return season(self.design, {demand.herd.id: demand.per_head_lpd for demand in self.herds})

    @cached_property
    def heights(self) -> Heights:
        """Heights of places by all that was measured."""
        return heights(self.design)

    @cached_property
    def line_lengths(self) -> list[LineLength]:
        """Each line's pipe beside the straight way and what was counted."""
        return line_lengths(self.model.layout)

    @cached_property
    def wanted_days(self) -> tuple[float, bool]:
        """Days in hand wanted, and whether that is our default, for animals only, rather than the user's figure."""
        stated = [wanted.days_in_hand for wanted in self.design.requirements if wanted.days_in_hand]
        return (max(stated), False) if stated else (DEFAULT_DAYS_IN_HAND, True)

    @cached_property
    def herds(self) -> list[HerdDemand]:
        """Each herd's demand in the chosen case."""
        return herd_demands(self.design, self.scenario)

    @cached_property
    def other_demands(self) -> list[OtherDemand]:
        """What plants and ponds need in the chosen case, and what runs over where it holds a float valve open."""
        needs = other_demands(self.design, self.scenario, self.timed_flows_lpm)
        return needs + [self._leak_demand(outlet, needs) for outlet in self.fed_outlets if self._is_stuck(outlet)]

    def _is_stuck(self, outlet: OutletBase) -> bool:
        return isinstance(outlet, FloatValveOutlet) and outlet.id in self.scenario.open

    def _leak_demand(self, outlet: OutletBase, needs: list[OtherDemand]) -> OtherDemand:
        drunk = sum(demand.daily_l / len(demand.outlets) for demand in self.herds if outlet.id in demand.outlets)
        used = sum(demand.daily_l for demand in needs if demand.where in (outlet.id, outlet.fills))
        return leak_demand(outlet, self.flows_alone_m3s[outlet.id], drunk + used)

    @cached_property
    def hours_of_cases(self) -> dict[str, list[float]]:
        """What is needed in each hour of a day [L] in every case, by its id; plants and ponds as in the chosen one."""
        cases = self.design.scenarios or [self.scenario]
        watered: dict[str, list[tuple[float, float]]] = {}
        for _, spells in self.timer_runs:
            for spell in spells:
                watered.setdefault(spell.part_id, []).append((spell.since / 60.0, (spell.until - spell.since) / 60.0))
        for crop in self.design.crops:
            if self.model.layout.outlets[crop.outlet].fills is not None:
                watered.setdefault(crop.id, [DAYLIGHT])  # they drink out of what it fills, as they need it
        return {case.id: hourly_l(herd_demands(self.design, case), self.other_demands, watered) for case in cases}

    @cached_property
    def timer_runs(self) -> list[tuple[Timer, list[Spell]]]:
        """Each timer with the spells in which its zones run."""
        flows = {outlet_id: lpm_from_m3s(flow) for outlet_id, flow in self.flows_alone_m3s.items()}
        return [(timer, zone_spells(timer, self.other_demands, self.design, flows)) for timer in self.design.timers]

    @cached_property
    def float_calls(self) -> list[Spell]:
        """When floats call for water because herds drink."""
        floats = {outlet.id: outlet for outlet in self.fed_outlets if isinstance(outlet, FloatValveOutlet)}
        return float_calls(self.herds, floats)

    @cached_property
    def timer_watch(self) -> Watch:
        """What the timers do to the other outlets."""
        wanted = {outlet.id: flow for outlet in self.fed_outlets if (flow := self.wanted_m3s(outlet)) is not None}
        return Watch(self.model, self.standing, self.fed_outlets, wanted)

    @cached_property
    def timer_clashes(self) -> list[Clash]:
        """Every time at which the timers starve an outlet."""
        spells = [(timer, spell) for timer, own in self.timer_runs for spell in own]
        return self.timer_watch.clashes(spells, self.float_calls)

    @cached_property
    def container_rows(self) -> list[ContainerRow]:
        """Rows of linked containers that share the level of one float."""
        return container_rows(self.document, self.design, self.other_demands, self.flows_alone_m3s)

    @cached_property
    def unattended_fills(self) -> list[UnattendedFill]:
        """For each pond that an outlet fills, and each vessel filled without a float: what runs over left alone."""
        lost = {
            demand.where: demand.daily_l * LITRE_M3 / DAY_S for demand in self.other_demands if demand.kind == "pond"
        }
        found = []
        for outlet in self.fed_outlets:
            vessel = self.model.layout.vessels.get(outlet.fills or "")
            if vessel and (vessel.role == "pond" or not isinstance(outlet, FloatValveOutlet)):
                own = sum(self.brings_m3[inflow.id] for inflow in self.design.inflows if inflow.fills == vessel.id)
                net_lost = lost.get(vessel.id, 0.0) - own / DAY_S
                by_design = vessel.overflow_m is not None and self._runs_by_design(outlet)
                found.append(unattended_fill(vessel, outlet, self.flows_alone_m3s[outlet.id], net_lost, by_design))
        return found

    def _runs_by_design(self, outlet: OutletBase) -> bool:
        """Whether what runs through an outlet all day is what a spring or a ram brings anyway, so that no store falls.

        That is so where it passes no more than they bring, or where they fill a chamber, which stores nothing; and of
        what a ram on the network gives, which must never be shut in.
        """
        route = self.routes[outlet.id]
        if route and isinstance(self.model.layout.sources.get(route.vessel.id), RamSource):
            return True
        steady = [
            inflow
            for inflow in (self.design.inflows if route else ())
            if route and inflow.fills == route.vessel.id and isinstance(inflow, SpringInflow | RamInflow)
        ]
        if not steady or route is None:
            return False
        brings_m3s = sum(self.brings_m3[inflow.id] for inflow in steady) / DAY_S
        return route.vessel.role == "chamber" or self.flows_alone_m3s[outlet.id] <= brings_m3s

    @property
    def daily_l(self) -> float:
        """What all in this plan needs in a day of the chosen case [L]."""
        return sum(demand.daily_l for demand in self.herds) + sum(demand.daily_l for demand in self.other_demands)

    @cached_property
    def waterings(self) -> list[Watering]:
        """How every trough serves the herds that are said to drink there; all mobs arrive together."""
        drawing = [outlet for outlet in self.fed_outlets if isinstance(outlet, FloatValveOutlet)]
        return waterings(self.herds, drawing, self.state)

    @cached_property
    def systems(self) -> list[WaterSystem]:
        """The plan's systems, the one whose store most outlets draw from first."""
        direct = [route.vessel.id for route in self.routes.values() if route]
        ranked = sorted(set(direct), key=lambda vessel_id: (-direct.count(vessel_id), vessel_id))
        reach = reach_of_vessels(self.model, self.standing)
        return water_systems(self.model.layout, reach, ranked, self.source_inflows)

    @cached_property
    def source_inflows(self) -> list[PressureInflow]:
        """What each source under pressure gives, as an inflow.

        That is what it gives with all outlets drawing; of a ram the least that it gives to any, since what it lifts
        highest takes it longest.
        """
        return [
            PressureInflow(
                id=source.id, name=label(source), fills=source.id, flow_lpm=lpm_from_m3s(self._given_m3s(source))
            )
            for source in self.design.pressure_sources
        ]

    def _given_m3s(self, source: PressureSourceBase) -> float:
        lines = [line.id for line in self.design.lines if line.from_ == source.id]
        states = list(self.states.values()) if isinstance(source, RamSource) else [self.state]
        flows = [sum(state.flow.line_flow_m3s(line_id) for line_id in lines) for state in states if state.converged]
        return min((flow for flow in flows if flow > STILL_BELOW_M3S), default=0.0)

    @cached_property
    def _plan_of_inflows(self) -> Design:
        """The design with what its sources under pressure give among its inflows."""
        return self.design.model_copy(update={"inflows": [*self.design.inflows, *self.source_inflows]})

    def name_among(self, system: WaterSystem) -> str | None:
        """Return what a system is told apart by; None where the plan has no other."""
        return system.name if len(self.systems) > 1 else None

    def system_of(self, part_id: str) -> WaterSystem | None:
        """Return the system that an outlet or a vessel belongs to; None where no water comes to it."""
        return next((system for system in self.systems if system.serves(part_id)), None)

    @cached_property
    def sources_of_outlets(self) -> list[Vessel]:
        """Vessels from which water can flow to an outlet while they are brimful, system by system."""
        return [store for system in self.systems for store in system.stores]

    @cached_property
    def stores_uncertain(self) -> bool:
        """Whether any vessel stands at a place whose height has an error."""
        places = self.model.layout.places
        return any(places[vessel.place].height_error_m for vessel in self.design.vessels)

    @cached_property
    def highest_source(self) -> Place | None:
        """The place of the vessel whose brim stands highest over the outlets that it feeds; None where none does."""
        layout = self.model.layout
        top = max(self.sources_of_outlets, key=lambda vessel: layout.floor_m(vessel) + vessel.brim_m, default=None)
        return layout.places[top.place] if top else None

    @cached_property
    def feeding_inflows(self) -> list[InflowBase]:
        """What fills the vessels that feed outlets, and those that transfers to them draw from."""
        return feeding([inflow for system in self.systems for inflow in system.inflows], self.design.inflows)

    @cached_property
    def timed_flows_lpm(self) -> dict[str, float]:
        """What the outlets give, all drawing, through which crops are watered by the minute [L/min]."""
        timed = [crop.outlet for crop in self.design.crops if crop.minutes_per_day is not None]
        return {outlet_id: lpm_from_m3s(self.state.outlets[outlet_id].judged_flow_m3s) for outlet_id in timed}

    @cached_property
    def balances(self) -> list[Balance]:
        """A day's demand of each system against its refill and its store, for the outlet that gets least of it."""
        return [self._balance(system) for system in self.systems]

    @cached_property
    def brings_m3(self) -> dict[str, float]:
        """What each inflow brings in a day of the chosen case [m3]; a transfer what can be spared where it draws."""
        return self.brought_m3(self.scenario, self.herds, self.other_demands)

    def brought_m3(
        self, scenario: Scenario, herds: list[HerdDemand], other_demands: list[OtherDemand]
    ) -> dict[str, float]:
        """Return what each inflow brings in a day of a case [m3], with the needs of that case."""
        return day_inflows_m3(
            self._plan_of_inflows,
            self.systems,
            scenario,
            lambda system: system.daily_l(herds, other_demands) * LITRE_M3,
        )

    @cached_property
    def _worst(self) -> tuple[WaterSystem, Balance] | None:
        pairs = zip(self.systems, self.balances, strict=True)
        return min(pairs, key=self._worst_first, default=None)

    def _worst_first(self, pair: tuple[WaterSystem, Balance]) -> tuple[float, float]:
        lasts = self.lasts(pair[0])
        return float("inf") if lasts is None else lasts.days, pair[1].spare_m3_per_day

    @property
    def worst_system(self) -> WaterSystem | None:
        """The system that lasts least with no refill, of equals the one with least to spare; None where none is."""
        return self._worst[0] if self._worst else None

    @property
    def balance(self) -> Balance:
        """The balance of the worst system; where no water comes to any outlet, a day's demand against nothing."""
        return self._worst[1] if self._worst else balance(self.daily_l * LITRE_M3, 0.0, 0.0)

    @cached_property
    def no_refill(self) -> NoRefill | None:
        """When water lacks first with every source lost, a day longer than wanted; None where nothing is run over time.

        Nor is it where very many outlets draw, or where no animals drink from a vessel.
        """
        there = set(drinking_vessels(self.design))
        groups = [own for system in self.systems if (own := {vessel for vessel in there if system.serves(vessel)})]
        if not self.over_time or not groups or len(self.design.outlets) > MOST_RANGED_ALONE:
            return None
        length_s = min((self.wanted_days[0] + 1.0) * DAY_S, LONGEST_LOOKED_AT_S)
        return no_refill(self.document, self.scenario, length_s, groups, lambda _: self.check_cancelled())

    def lasts(self, system: WaterSystem) -> Lasts | None:
        """Return for how long a system lasts with no refill; None where nothing is needed of it.

        Where it was run over time and water lacked, that says it; else what it holds over what is needed in a day.
        """
        days = self._balance(system).days_in_hand
        ran = self.no_refill
        if days is None or ran is None or not self.waters_animals(system):
            return None if days is None else Lasts(days=days, first=None)
        own = {vessel: lacks_s for vessel, lacks_s in ran.lacks_s.items() if system.serves(vessel)}
        if not own:
            return Lasts(days=max(days, ran.length_s / DAY_S), first=None)
        first = min(own, key=lambda vessel: own[vessel])
        return Lasts(days=own[first] / DAY_S, first=self.model.layout.vessels[first])

    def demand_m3s(self, part_id: str) -> float:
        """Return the mean of a day's demand [m3/s] of the system that an outlet or a vessel belongs to."""
        system = self.system_of(part_id)
        return system.daily_l(self.herds, self.other_demands) * LITRE_M3 / DAY_S if system else 0.0

    def waters_animals(self, system: WaterSystem) -> bool:
        """Whether animals drink from a system in the chosen case: else nothing dies where it fails."""
        return system.daily_l(self.herds, ()) > 0.0

    def is_filled_by_hand(self, system: WaterSystem) -> bool:
        """Whether nothing of the plan fills a system that plants alone are watered from: that is no fault."""
        return not system.inflows and not self.waters_animals(system)

    def refill_with_what_comes_s(self, outlet: OutletBase) -> float | None:
        """Return how long a refill takes [s] that the store alone cannot give; None where nothing else comes in.

        What is usable now goes first, then what the system's sources bring in a day of the chosen case, all of it.
        """
        refill, system = self.refills.get(outlet.id), self.system_of(outlet.id)
        if refill is None or system is None:
            return None
        comes_m3s = sum(self.brings_m3[inflow.id] for inflow in system.inflows) / DAY_S
        lacks_m3 = refill.volume_m3 - system.usable_m3(outlet, system.levels_m)
        return max(lacks_m3, 0.0) / comes_m3s if comes_m3s > 0.0 else None

    def drinkers(self, system: WaterSystem) -> list[OutletBase]:
        """Return the outlets of a system at which something is needed in the chosen case."""
        needed_at = {outlet_id for demand in self.herds if demand.daily_l > 0.0 for outlet_id in demand.outlets}
        return system.outlets_for(needed_at | {demand.where for demand in self.other_demands if demand.daily_l > 0.0})

    def usable_m3(self, vessel: Vessel) -> float:
        """Return what of a vessel can flow to that outlet of its system which least of the store can flow to [m3]."""
        system = self.system_of(vessel.id)
        if system is None or vessel not in system.stores:
            return 0.0
        return system.usable_of_m3(vessel, system.tightest(self.drinkers(system), system.levels_m), vessel.level_m)

    def _balance(self, system: WaterSystem) -> Balance:
        levels = {store.id: self._at_cut_in_m(store) for store in system.stores}
        refill = sum(self.brings_m3[inflow.id] for inflow in system.inflows)
        in_hand = system.least_usable_m3(self.drinkers(system), levels)
        return balance(system.daily_l(self.herds, self.other_demands) * LITRE_M3, refill / DAY_S, in_hand)

    def _at_cut_in_m(self, vessel: Vessel) -> float:
        """Return the level [m] as low as a vessel may stand when its pump fails: where that would cut in."""
        switches = [
            inflow.cut_in_m
            for inflow in self.design.inflows
            if isinstance(inflow, PumpInflow) and inflow.fills == vessel.id
        ]
        return min([vessel.level_m, *(level for level in switches if level is not None)])

    @cached_property
    def store_seasons(self) -> list[StoreSeason]:
        """The store of each system, as one, through the document's weather; none without one."""
        if self.design.season is None:
            return []
        weather = daily_weather(self.design.season.weather)
        pools = [self._pool(system, weather) for system in self.systems]
        pool_of = {system.stores[0].id: pool for system, pool in zip(self.systems, pools, strict=True)}
        brings = season_inflows_m3(
            self._plan_of_inflows, self.systems, weather, lambda system: pool_of[system.stores[0].id]
        )
        return [
            store_season(weather, system.inflows, brings, pool)
            for system, pool in zip(self.systems, pools, strict=True)
        ]

    @property
    def dry_season(self) -> tuple[WaterSystem, StoreSeason] | None:
        """The system that meets its demand on fewest days of the weather, and its store through it; None without one.

        One that no source fills is filled by hand: its weather says nothing of it, unless no other is there.
        """
        pairs = list(zip(self.systems, self.store_seasons, strict=False))
        pairs = [pair for pair in pairs if pair[0].inflows] or pairs
        return min(pairs, key=lambda pair: pair[1].lasting_share, default=None)

    @property
    def store_season(self) -> StoreSeason | None:
        """The store of the system that meets its demand on fewest days of the weather; None without one."""
        driest = self.dry_season
        return driest[1] if driest else None

    def _pool(self, system: WaterSystem, weather: DailyWeather) -> Pool:
        """Return what of a system's store can flow to the drinker that least of it can flow to, and its demand."""
        served = None if len(self.systems) == 1 else system.serves
        demand = season_demand_m3(self.design, weather, self.timed_flows_lpm, served)
        drinkers = system.outlets_for(needed_at_some_time(self.design))
        holds = system.least_usable_m3(drinkers, {store.id: store.brim_m for store in system.stores})
        starts = system.least_usable_m3(drinkers, system.levels_m)
        return Pool(holds_m3=holds, starts_m3=min(starts, holds), demand_m3=demand)
