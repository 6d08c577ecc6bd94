"""Everything Leadsman says of a design, each part computed when first asked for."""

from leadsman.core.analysis.first_water import FirstWater, first_water
from leadsman.core.analysis.running import Running
from leadsman.core.analysis.timers import Clash, Spell, Watch, float_calls, zone_spells
from leadsman.core.analysis.watering import Watering, waterings
from leadsman.core.base.cached import cached_property
from leadsman.core.base.units import DAY_S, LITRE_M3, lpm_from_m3s
from leadsman.core.design import FloatValveOutlet, InflowBase, Place, PumpInflow, Timer, Vessel
from leadsman.core.design.store import brimful, usable_m3
from leadsman.core.farm.balance import Balance, balance
from leadsman.core.farm.container_row import ContainerRow, container_rows
from leadsman.core.farm.daily_weather import daily_weather
from leadsman.core.farm.day_need import hourly_l
from leadsman.core.farm.grazing import Season, season
from leadsman.core.farm.growing import OtherNeed, other_needs
from leadsman.core.farm.inflow import daily_m3
from leadsman.core.farm.need import HerdNeed, herd_needs
from leadsman.core.farm.season_need import season_need_m3
from leadsman.core.farm.supply import StoreSeason, store_season
from leadsman.core.farm.unattended import UnattendedFill, unattended_fill
from leadsman.core.steady.way import vessels_behind
from leadsman.core.survey.height_network import Heights, heights
from leadsman.core.survey.line_length import LineLength, line_lengths

DEFAULT_DAYS_IN_HAND = 2.0  # common practice, no source: two independent days in hand


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
        """For each outlet that is meant to run and whose line has a peak: what the first water through it takes."""
        found = {outlet.id: first_water(self, outlet) for outlet in self.fed_outlets}
        return {outlet_id: leak for outlet_id, leak in found.items() if leak is not None}

    @cached_property
    def season(self) -> Season:
        """The grazing calendar day by day, in the heat of the chosen case."""
        return season(self.design, {need.herd.id: need.per_head_lpd for need in self.herds})

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
        """Days in hand wanted, and whether that is our default rather than the user's figure."""
        stated = [wanted.days_in_hand for wanted in self.design.requirements if wanted.days_in_hand]
        return (max(stated), False) if stated else (DEFAULT_DAYS_IN_HAND, True)

    @cached_property
    def herds(self) -> list[HerdNeed]:
        """Each herd's need in the chosen case."""
        return herd_needs(self.design, self.scenario)

    @cached_property
    def other_needs(self) -> list[OtherNeed]:
        """What plants and ponds need in the chosen case."""
        return other_needs(self.design, self.scenario, self.timed_flows_lpm)

    @cached_property
    def hours_of_cases(self) -> dict[str, list[float]]:
        """What is needed in each hour of a day [L] in every case, by its id; plants and ponds as in the chosen one."""
        cases = self.design.scenarios or [self.scenario]
        watered: dict[str, list[tuple[float, float]]] = {}
        for _, spells in self.timer_runs:
            for spell in spells:
                watered.setdefault(spell.part_id, []).append((spell.since / 60.0, (spell.until - spell.since) / 60.0))
        return {case.id: hourly_l(herd_needs(self.design, case), self.other_needs, watered) for case in cases}

    @cached_property
    def timer_runs(self) -> list[tuple[Timer, list[Spell]]]:
        """Each timer with the spells in which its zones run."""
        flows = {outlet_id: lpm_from_m3s(flow) for outlet_id, flow in self.flows_alone_m3s.items()}
        return [(timer, zone_spells(timer, self.other_needs, self.design, flows)) for timer in self.design.timers]

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
        return container_rows(self.document, self.design, self.other_needs, self.flows_alone_m3s)

    @cached_property
    def unattended_fills(self) -> list[UnattendedFill]:
        """For each pond that an outlet fills, and each vessel filled without a float: what runs over left alone."""
        lost = {need.where: need.daily_l * LITRE_M3 / DAY_S for need in self.other_needs if need.kind == "pond"}
        found = []
        for outlet in self.fed_outlets:
            vessel = self.model.layout.vessels.get(outlet.fills or "")
            if vessel and (vessel.role == "pond" or not isinstance(outlet, FloatValveOutlet)):
                inflow = self.flows_alone_m3s[outlet.id]
                found.append(unattended_fill(vessel, outlet, inflow, lost.get(vessel.id, 0.0)))
        return found

    @property
    def daily_l(self) -> float:
        """What all that is on this water needs in a day of the chosen case [L]."""
        return sum(need.daily_l for need in self.herds) + sum(need.daily_l for need in self.other_needs)

    @cached_property
    def waterings(self) -> list[Watering]:
        """How every trough serves the herds that are said to drink there; all mobs come at once."""
        drawing = [outlet for outlet in self.fed_outlets if isinstance(outlet, FloatValveOutlet)]
        return waterings(self.herds, drawing, self.state)

    @cached_property
    def sources_of_outlets(self) -> list[Vessel]:
        """Vessels from which water can get to an outlet over open lines, the one most outlets draw from first."""
        direct = [route.vessel.id for route in self.routes.values() if route]
        ranked = sorted(set(direct), key=lambda vessel_id: (-direct.count(vessel_id), vessel_id))
        nodes = [self.model.layout.node_of_outlet[outlet.id] for outlet in self.fed_outlets]
        stores = vessels_behind(self.model.loader, self.standing, nodes)
        ranked += [vessel.id for vessel in self.design.vessels if vessel.id in stores and vessel.id not in ranked]
        return [self.model.layout.vessels[vessel_id] for vessel_id in ranked]

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
        """What fills the vessels that feed outlets."""
        feeding = {vessel.id for vessel in self.sources_of_outlets}
        return [inflow for inflow in self.design.inflows if inflow.fills in feeding]

    @cached_property
    def timed_flows_lpm(self) -> dict[str, float]:
        """What the outlets give, all drawing, through which crops are watered by the minute [L/min]."""
        timed = [crop.outlet for crop in self.design.crops if crop.minutes_per_day is not None]
        return {outlet_id: lpm_from_m3s(self.state.outlets[outlet_id].judged_flow_m3s) for outlet_id in timed}

    @cached_property
    def balance(self) -> Balance:
        """A day's need against refill and store, over all vessels that feed outlets."""
        need_m3 = self.daily_l * LITRE_M3
        refill = sum(daily_m3(inflow, self.scenario) for inflow in self.feeding_inflows)
        in_hand = sum(usable_m3(self._at_cut_in(vessel)) for vessel in self.sources_of_outlets)
        return balance(need_m3, refill / DAY_S, in_hand)

    def _at_cut_in(self, vessel: Vessel) -> Vessel:
        """Return a vessel as low as it may stand when its pump fails: at the level where that would cut in."""
        switches = [
            inflow.cut_in_m
            for inflow in self.design.inflows
            if isinstance(inflow, PumpInflow) and inflow.fills == vessel.id
        ]
        lowest = min([vessel.level_m, *(level for level in switches if level is not None)])
        return vessel.model_copy(update={"level_m": lowest})

    @cached_property
    def store_season(self) -> StoreSeason | None:
        """The store of all vessels that feed outlets, as one, through the document's weather; None without one."""
        if self.design.season is None:
            return None
        weather = daily_weather(self.design.season.weather)
        vessels = self.sources_of_outlets
        need = season_need_m3(self.design, weather, self.timed_flows_lpm)
        holds = sum(usable_m3(brimful(vessel)) for vessel in vessels)
        return store_season(weather, self.feeding_inflows, need, holds, sum(usable_m3(vessel) for vessel in vessels))
