"""Everything Leadsman says of a design, each part computed when first asked for."""

from dataclasses import replace
from functools import cached_property

from leadsman.core.answer import OutletAnswer, SteadyState
from leadsman.core.balance import Balance, balance
from leadsman.core.case import Case, case_of
from leadsman.core.container_row import ContainerRow, container_rows
from leadsman.core.daily_weather import daily_weather
from leadsman.core.day_need import hourly_l
from leadsman.core.design import Design, FloatValveOutlet, OutletBase, PumpInflow, Requirement, Scenario, Timer, Vessel
from leadsman.core.grazing import Season, season, set_for
from leadsman.core.growing import OtherNeed, other_needs
from leadsman.core.inflow import daily_m3
from leadsman.core.need import HerdNeed, herd_needs
from leadsman.core.ranges import Answer, Range, has_flow_range, node_head, outlet_flow, ranges_of
from leadsman.core.refill import Filling, Refill, refills
from leadsman.core.route import Route, feeds, route_to, vessels_behind
from leadsman.core.season_need import season_need_m3
from leadsman.core.section import SectionPoint, route_band, route_section
from leadsman.core.solve import model_of, solve_with
from leadsman.core.sounding import Sounding, sounding
from leadsman.core.steady import Flow, NetworkModel
from leadsman.core.store import usable_m3
from leadsman.core.supply import StoreSeason, store_season
from leadsman.core.timers import Clash, Spell, Watch, float_calls, zone_spells
from leadsman.core.unattended import UnattendedFill, unattended_fill
from leadsman.core.units import DAY_S, LITRE_M3, MINUTE_S, lpm_from_m3s, m3s_from_lpm
from leadsman.core.watering import Watering, waterings

TOGETHER = "\n"  # no outlet is called so
ORDINARY_DAY = Scenario(id="ordinary-day", name="Ordinary day", air_c=20.0)
DEFAULT_DAYS_IN_HAND = 2.0  # common practice, no source: two independent days in hand


class Analysis:
    """A design with its answers.

    Raises, when a part is asked for:
        DesignFaults, UnknownName, OutOfRange: as `solve` and `daily_intake` do.
    """

    def __init__(self, design: Design) -> None:
        self.document = design
        self.variants: dict[str, Analysis | None] = {}  # what was tried as a remedy, by its patch

    @cached_property
    def design(self) -> Design:
        """The document with every float set as it is on the day shown."""
        return set_for(self.document, self.scenario.date)

    @cached_property
    def model(self) -> NetworkModel:
        """The design's network, with the water of the chosen case."""
        return model_of(self.design, scenario=self.scenario)

    @cached_property
    def standing(self) -> Case:
        """The chosen case, with every outlet that it does not shut drawing fully; where no herd is, none draws."""
        return case_of(self.design, all_open=True, scenario=self.scenario)

    @cached_property
    def season(self) -> Season:
        """The grazing calendar day by day, in the heat of the chosen case."""
        return season(self.design, {need.herd.id: need.per_head_lpd for need in self.herds})

    @property
    def states(self) -> dict[str, SteadyState]:
        """All outlets drawing together, and each by itself under its id."""
        return self._solved[0]

    @property
    def state(self) -> SteadyState:
        """The steady state that is judged: every outlet that is not shut by hand drawing fully."""
        return self.states[TOGETHER]

    @property
    def wanted_flows(self) -> dict[str, Flow]:
        """For soundings: each outlet taking the flow wanted of it, all together, and each by itself under its id."""
        return self._solved[1]

    @cached_property
    def _solved(self) -> tuple[dict[str, SteadyState], dict[str, Flow]]:
        """States and wanted flows, in one batch."""
        wanted = {one.id: flow for one in self.fed_outlets if (flow := self.wanted_m3s(one)) is not None}
        cases = {TOGETHER: self.standing}
        cases |= {outlet.id: self.standing.with_only(outlet.id) for outlet in self.fed_outlets}
        drawing = {TOGETHER: replace(self.standing, draws_m3s=wanted)}
        for outlet in self.fed_outlets:
            own = {outlet.id: wanted[outlet.id]} if outlet.id in wanted else {}
            drawing[outlet.id] = replace(cases[outlet.id], draws_m3s=own)
        states, flows = solve_with(self.model, cases, list(drawing.values()))
        return states, dict(zip(drawing, flows, strict=True))

    @cached_property
    def scenario(self) -> Scenario:
        """The case that the figures are for."""
        cases = self.document.scenarios
        chosen = [case for case in cases if case.id == self.document.shown_for] or cases[:1]
        return chosen[0] if chosen else ORDINARY_DAY

    @cached_property
    def fed_outlets(self) -> list[OutletBase]:
        """Outlets that are meant to run: not shut by hand, nor in the chosen case."""
        return [outlet for outlet in self.design.outlets if self.standing.openings[outlet.id] > 0.0]

    def answer(self, outlet: OutletBase) -> OutletAnswer:
        """Return the steady answer of an outlet."""
        return self.state.outlets[outlet.id]

    def requirement(self, outlet: OutletBase) -> Requirement | None:
        """Return what is wanted of an outlet."""
        return next((wanted for wanted in self.design.requirements if wanted.outlet == outlet.id), None)

    def wanted_m3s(self, outlet: OutletBase) -> float | None:
        """Return the wanted flow of an outlet [m3/s], None where none is stated."""
        wanted = self.requirement(outlet)
        return m3s_from_lpm(wanted.flow_lpm) if wanted and wanted.flow_lpm else None

    def wanted_refill_s(self, outlet: OutletBase) -> float | None:
        """Return the time [s] in which the outlet's vessel should be full, None where none is stated."""
        wanted = self.requirement(outlet)
        return wanted.refill_min * MINUTE_S if wanted and wanted.refill_min else None

    @cached_property
    def wanted_days(self) -> tuple[float, bool]:
        """Days in hand wanted, and whether that is our default rather than the user's figure."""
        stated = [wanted.days_in_hand for wanted in self.design.requirements if wanted.days_in_hand]
        return (max(stated), False) if stated else (DEFAULT_DAYS_IN_HAND, True)

    @cached_property
    def routes(self) -> dict[str, Route | None]:
        """For each outlet the way on which its water comes, all drawing together; None where none leads to it."""
        nodes = self.model.layout.node_of_outlet
        return {outlet.id: route_to(self.state.flow, nodes[outlet.id]) for outlet in self.design.outlets}

    def state_of(self, outlet: OutletBase, together: bool) -> SteadyState:
        """Return the state in which an outlet draws with all others, or by itself."""
        return self.state if together or outlet.id not in self.states else self.states[outlet.id]

    def section(self, outlet: OutletBase, together: bool = True) -> list[SectionPoint]:
        """Return the long section to an outlet, at the flows that run."""
        route = self.routes[outlet.id]
        state = self.state_of(outlet, together)
        return route_section(route, state.flow, self.state.shut) if route else []

    @cached_property
    def feeds(self) -> list[Route]:
        """The ways on which vessels fill vessels through lines, all outlets drawing."""
        return feeds(self.state.flow)

    @cached_property
    def ranges(self) -> dict[tuple[str, Answer], Range]:
        """By state, as in `states`: ranges of the flow of each outlet that draws, and of the heads on its way."""
        asked = [
            (key, answer)
            for key, state in self.states.items()
            for answer in self._answers_with_range(key)
            if state.converged and state.solved.used.converged
        ]
        found = ranges_of([(self.states[key].solved.used, answer) for key, answer in asked])
        return {one: range_ for one, range_ in zip(asked, found, strict=True) if range_ is not None}

    def _answers_with_range(self, key: str) -> list[Answer]:
        drawing = [outlet for outlet in self.fed_outlets if key in (TOGETHER, outlet.id)]
        ways = [route for outlet in drawing if (route := self.routes[outlet.id])]
        ways += self.feeds if key == TOGETHER else []
        ends = {end: None for way in ways for leg in way.legs for end in (leg.line.from_, leg.line.to)}
        flow = self.states[key].solved.used
        answers = [outlet_flow(one) for one in drawing if flow.outlet_flow_m3s(one.id) > 0.0 and has_flow_range(one)]
        return answers + [node_head(end) for end in ends if flow.head_m(end) is not None]

    def flow_range(self, outlet: OutletBase, together: bool = True) -> Range | None:
        """Return the range of an outlet's judged flow [m3/s], None where it has none."""
        return self.ranges.get((TOGETHER if together else outlet.id, outlet_flow(outlet)))

    def band(self, route: Route, key: str = TOGETHER) -> list[tuple[float, float] | None]:
        """Return lowest and highest head [m] at each point of a route; None where the grade shown is not judged by."""
        state = self.states[key]
        if state.flow is not state.solved.used:
            return [None] * len(route.points)
        heads = {answer.part_id: one for (of, answer), one in self.ranges.items() if of == key and answer.is_head}
        return route_band(route, state.flow, heads)

    def band_to(self, outlet: OutletBase, together: bool = True) -> list[tuple[float, float] | None]:
        """Return the band of the grade along the long section to an outlet."""
        route = self.routes[outlet.id]
        key = TOGETHER if together or outlet.id not in self.states else outlet.id
        return self.band(route, key) if route else []

    def sounding(self, outlet: OutletBase, together: bool = True) -> Sounding | None:
        """Return the sounding at the wanted flow, else at the flow that runs, else nothing."""
        state, route = self.state_of(outlet, together), self.routes[outlet.id]
        flow = self.wanted_m3s(outlet) or state.outlets[outlet.id].flow_m3s
        if route is None or not route.legs or flow <= 0.0 or not state.converged or outlet not in self.fed_outlets:
            return None
        return sounding(self.wanted_flows[TOGETHER if together else outlet.id], route, outlet, flow)

    @cached_property
    def herds(self) -> list[HerdNeed]:
        """Each herd's need in the chosen case."""
        return herd_needs(self.design, self.scenario)

    @cached_property
    def other_needs(self) -> list[OtherNeed]:
        """What plants and ponds need in the chosen case."""
        flows = {one: lpm_from_m3s(self.state.outlets[one].judged_flow_m3s) for one in self.state.outlets}
        return other_needs(self.design, self.scenario, flows if self.design.crops else {})

    @cached_property
    def hours_of_cases(self) -> dict[str, list[float]]:
        """What is needed in each hour of a day [L] in every case, by its id; plants and ponds as in the chosen one."""
        cases = self.design.scenarios or [self.scenario]
        watered: dict[str, list[tuple[float, float]]] = {}
        for _, spells in self.timer_runs:
            for one in spells:
                watered.setdefault(one.part_id, []).append((one.since / 60.0, (one.until - one.since) / 60.0))
        return {case.id: hourly_l(herd_needs(self.design, case), self.other_needs, watered) for case in cases}

    @cached_property
    def timer_runs(self) -> list[tuple[Timer, list[Spell]]]:
        """Each timer with the spells in which its zones run."""
        flows = {one: lpm_from_m3s(flow) for one, flow in self.flows_alone_m3s.items()}
        return [(one, zone_spells(one, self.other_needs, self.design, flows)) for one in self.design.timers]

    @cached_property
    def float_calls(self) -> list[Spell]:
        """When floats call for water because herds drink."""
        floats = {one.id: one for one in self.fed_outlets if isinstance(one, FloatValveOutlet)}
        return float_calls(self.herds, floats)

    @cached_property
    def timer_watch(self) -> Watch:
        """What the timers do to the other outlets."""
        wanted = {one.id: flow for one in self.fed_outlets if (flow := self.wanted_m3s(one)) is not None}
        return Watch(self.model, self.standing, self.fed_outlets, wanted)

    @cached_property
    def timer_clashes(self) -> list[Clash]:
        """Every time at which the timers starve an outlet."""
        spells = [(timer, spell) for timer, own in self.timer_runs for spell in own]
        return self.timer_watch.clashes(spells, self.float_calls)

    @cached_property
    def flows_alone_m3s(self) -> dict[str, float]:
        """What each outlet that is meant to run gives drawing by itself [m3/s]."""
        return {outlet.id: self.states[outlet.id].outlets[outlet.id].judged_flow_m3s for outlet in self.fed_outlets}

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
        stores = vessels_behind(self.model, self.standing, nodes)
        ranked += [vessel.id for vessel in self.design.vessels if vessel.id in stores and vessel.id not in ranked]
        return [self.model.layout.vessels[vessel_id] for vessel_id in ranked]

    @cached_property
    def balance(self) -> Balance:
        """A day's need against refill and store, over all vessels that feed outlets."""
        need_m3 = self.daily_l * LITRE_M3
        feeding = {vessel.id for vessel in self.sources_of_outlets}
        refill = sum(daily_m3(inflow, self.scenario) for inflow in self.design.inflows if inflow.fills in feeding)
        in_hand = sum(usable_m3(self._at_cut_in(vessel)) for vessel in self.sources_of_outlets)
        return balance(need_m3, refill / DAY_S, in_hand)

    def _at_cut_in(self, vessel: Vessel) -> Vessel:
        """Return a vessel as low as it may stand when its pump fails: at the level where that would cut in."""
        switches = [
            one.cut_in_m for one in self.design.inflows if isinstance(one, PumpInflow) and one.fills == vessel.id
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
        feeding = {vessel.id for vessel in vessels}
        inflows = [inflow for inflow in self.design.inflows if inflow.fills in feeding]
        timed = [crop.outlet for crop in self.design.crops if crop.minutes_per_day is not None]
        flows = {one: lpm_from_m3s(self.state.outlets[one].judged_flow_m3s) for one in timed}
        need = season_need_m3(self.design, weather, flows)
        brimful = [vessel.model_copy(update={"level_m": vessel.brim_m}) for vessel in vessels]
        holds, has = (sum(usable_m3(vessel) for vessel in of) for of in (brimful, vessels))
        return store_season(weather, list(inflows), need, holds, has)

    @cached_property
    def refills(self) -> dict[str, Refill]:
        """For each float valve that fills a vessel and has a way to water: the refill from its level to full, alone."""
        return refills([one for outlet in self.fed_outlets if (one := self._filling(outlet))], self.standing)

    def refill(self, outlet: OutletBase) -> Refill | None:
        """Return the refill through one outlet, as in `refills`."""
        filling = self._filling(outlet)
        return refills([filling], self.standing).get(outlet.id) if filling else None

    def _filling(self, outlet: OutletBase) -> Filling | None:
        vessel, route = self.model.layout.vessels.get(outlet.fills or ""), self.routes[outlet.id]
        if vessel is None or route is None or not isinstance(outlet, FloatValveOutlet):
            return None
        return Filling(outlet, vessel, route.vessel, self.model)
