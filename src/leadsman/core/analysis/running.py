"""How a design runs: its steady states in the chosen case, each part computed when first asked for."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from leadsman.core.analysis.ranges import Answer, Range, has_flow_range, node_head, outlet_flow, ranges_of
from leadsman.core.analysis.refill import Refill, VesselFilling, refills
from leadsman.core.analysis.route import Course, Route, WayOver, feeds, route_to
from leadsman.core.analysis.section import SectionPoint, route_band, route_section
from leadsman.core.analysis.sounding import Sounding, highest_pipe_m, soundings
from leadsman.core.base.array import Floats
from leadsman.core.base.cached import cached_property
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.lazy_map import LazyMap
from leadsman.core.base.units import MINUTE_S, m3s_from_lpm
from leadsman.core.design import Design, FloatValveOutlet, OutletBase, Requirement, Scenario
from leadsman.core.farm.grazing import set_for
from leadsman.core.farm.pressure_source import with_sources
from leadsman.core.solver.gradient import ENERGY_WITHIN_M
from leadsman.core.steady.answer import OutletAnswer, SteadyState
from leadsman.core.steady.case import Case, case_of, shown_scenario
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import model_of, solve_with

TOGETHER = "\n"  # no outlet is called so
MOST_RANGED_ALONE = 40
PREVIEW_WITHIN_M = 1e-6  # what an answer that counts as converged may be off in a link
LinePointKey = tuple[str, int]  # id of a line, and the number of a point along it


class Running:
    """A design with what its water does: states, ways, ranges, soundings and refills.

    With `together_only` it is a preview: all outlets drawing together, without ranges, and what an outlet does by
    itself is taken for the same. With `over_time` it is run over time how long a store lasts with no refill: else
    that is what it holds over what is needed in a day. `expected_air` are points that stood open to air just before.
    `check_cancelled` is called between the parts of long work: an exception ends it.

    Raises, when a part is asked for:
        DesignFaults, UnknownName, OutOfRange: as `solve` does.
    """

    def __init__(
        self,
        design: Design,
        *,
        together_only: bool = False,
        over_time: bool = False,
        check_cancelled: CancelCheck = never_cancelled,
        expected_air: Sequence[LinePointKey] = (),
    ) -> None:
        self.document, self.together_only, self.check_cancelled = design, together_only, check_cancelled
        self.over_time = over_time
        self.expected_air = expected_air

    @cached_property
    def design(self) -> Design:
        """The document with every float set as it is on the day shown, its sources under pressure as pumps."""
        return with_sources(set_for(self.document, self.scenario.date), self.scenario)

    @cached_property
    def model(self) -> NetworkModel:
        """The design's network, with the water of the chosen case."""
        return model_of(self.design, scenario=self.scenario, check_cancelled=self.check_cancelled)

    @cached_property
    def standing(self) -> Case:
        """The chosen case, with every outlet that it does not shut drawing fully; where no herd is, none draws."""
        return case_of(self.design, all_open=True, scenario=self.scenario)

    @property
    def states(self) -> dict[str, SteadyState]:
        """All outlets drawing together, and each by itself under its id."""
        return self._solved[0]

    @cached_property
    def state(self) -> SteadyState:
        """The steady state that is judged: every outlet that is not shut by hand drawing fully."""
        return self.states[TOGETHER]

    @property
    def wanted_flows(self) -> dict[str, Flow]:
        """For soundings: each outlet taking the flow wanted of it, all together, and each by itself under its id."""
        return self._solved[1]

    @property
    def brimful(self) -> Flow | None:
        """All outlets shut, every vessel at its brim: the most that ever stands anywhere; None without an answer.

        Nor is there one where the design is seen in passing.
        """
        flow = self._solved[2]
        return flow if flow and flow.converged else None

    @cached_property
    def _solved(self) -> tuple[dict[str, SteadyState], dict[str, Flow], Flow | None]:
        """States, wanted flows, and what stands when all is shut and full, in one batch."""
        wanted = {fed.id: flow for fed in self.fed_outlets if (flow := self.wanted_m3s(fed)) is not None}
        cases = {TOGETHER: self.standing}
        alone = [] if self.together_only else self.fed_outlets
        cases |= {outlet.id: self.standing.with_only(outlet.id) for outlet in alone}
        drawing = {TOGETHER: replace(self.standing, draws_m3s=wanted)}
        for outlet in alone:
            own = {outlet.id: wanted[outlet.id]} if outlet.id in wanted else {}
            drawing[outlet.id] = replace(cases[outlet.id], draws_m3s=own)
        brimming = {vessel.id: vessel.brim_m for vessel in self.design.vessels}
        brimful = replace(self.standing.with_nothing_drawing(), levels_m=brimming)
        full = [] if self.together_only else [brimful]
        within_m = PREVIEW_WITHIN_M if self.together_only else ENERGY_WITHIN_M
        also = [*drawing.values(), *full]
        states, flows = solve_with(self.model, cases, also, within_m, self._expected_points)
        return states, dict(zip(drawing, flows, strict=False)), flows[-1] if full else None

    @property
    def _expected_points(self) -> frozenset[int]:
        """The numbers of the points that are expected to stand open to air, of those that there still are."""
        of_line = self.model.along.of_line
        known = [(of_line[line_id], index) for line_id, index in self.expected_air if line_id in of_line]
        return frozenset(numbers[index] for numbers, index in known if 0 <= index < len(numbers))

    @property
    def air(self) -> list[LinePointKey]:
        """The points that stand open to air, all outlets drawing together."""
        opened, along = self.state.solved.opened, self.model.along
        if opened is None:
            return []
        starts = {line_id: numbers.start for line_id, numbers in along.of_line.items()}
        spots = {(point.line_id, point.at_m): number for number, point in enumerate(along.points)}
        points = [(point.line_id, spots[point.line_id, point.at_m]) for point in opened.model.plumbing.air_points]
        return [(line_id, number - starts[line_id]) for line_id, number in points]

    @cached_property
    def scenario(self) -> Scenario:
        """The case that the figures are for."""
        return shown_scenario(self.document)

    @cached_property
    def fed_outlets(self) -> list[OutletBase]:
        """Outlets that are meant to run: not shut by hand, nor in the chosen case."""
        return [outlet for outlet in self.design.outlets if self.standing.openings[outlet.id] > 0.0]

    def answer(self, outlet: OutletBase) -> OutletAnswer:
        """Return the steady answer of an outlet."""
        return self.state.outlets[outlet.id]

    def requirement(self, outlet: OutletBase) -> Requirement | None:
        """Return what is wanted of an outlet."""
        return self._requirements.get(outlet.id)

    @cached_property
    def _requirements(self) -> dict[str, Requirement]:
        """The first requirement of each outlet."""
        return {
            requirement.outlet: requirement
            for requirement in reversed(self.design.requirements)
            if requirement.outlet is not None
        }

    def wanted_m3s(self, outlet: OutletBase) -> float | None:
        """Return the wanted flow of an outlet [m3/s], None where none is stated."""
        return self._wanted_m3s.get(outlet.id)

    @cached_property
    def _wanted_m3s(self) -> dict[str, float]:
        stated = self._requirements.items()
        return {outlet_id: m3s_from_lpm(wanted.flow_lpm) for outlet_id, wanted in stated if wanted.flow_lpm}

    def wanted_refill_s(self, outlet: OutletBase) -> float | None:
        """Return the time [s] in which the outlet's vessel should be full, None where none is stated."""
        wanted = self.requirement(outlet)
        return wanted.refill_min * MINUTE_S if wanted and wanted.refill_min else None

    @cached_property
    def routes(self) -> Mapping[str, Route | None]:
        """For each outlet the way on which its water comes, all drawing together; None where none leads to it."""
        nodes, flow = self.model.layout.node_of_outlet, self.state.flow
        return LazyMap(nodes, lambda outlet_id: route_to(flow, nodes[outlet_id]))

    @cached_property
    def ways_over(self) -> Mapping[str, list[WayOver]]:
        """For each line the outlets whose water comes over it, all drawing together, in the order of the design."""
        found: dict[str, list[WayOver]] = {line.id: [] for line in self.design.lines}
        for outlet in self.design.outlets:
            if (route := self.routes[outlet.id]) is None:
                continue
            for index, leg in enumerate(route.legs):
                found[leg.line.id].append(WayOver(outlet, route, index))
        return found

    def is_led_to(self, outlet: OutletBase) -> bool:
        """Whether some way leads from a vessel to an outlet."""
        ways, node = self.state.flow.ways, self.model.plumbing.outlet_nodes[outlet.id]
        return bool(ways.reached[node] and not ways.is_vessel[node])

    def state_of(self, outlet: OutletBase, together: bool) -> SteadyState:
        """Return the state in which an outlet draws with all others, or by itself."""
        return self.state if together or outlet.id not in self.states else self.states[outlet.id]

    def section(self, outlet: OutletBase, together: bool = True) -> list[SectionPoint]:
        """Return the profile to an outlet, at the flows that run."""
        route = self.routes[outlet.id]
        state = self.state_of(outlet, together)
        return route_section(route, state.flow, self.state.shut) if route else []

    @cached_property
    def feeds(self) -> list[Route]:
        """The ways on which vessels fill vessels through lines, all outlets drawing."""
        return feeds(self.state.flow)

    @cached_property
    def ranges(self) -> dict[tuple[str, Answer], Range]:
        """By state, as in `states`: ranges of the flow of each outlet that draws, and of the heads on its way.

        Where very many outlets draw, only with all of them together: each by itself would take minutes.
        """
        if self.together_only:
            return {}
        ranged = self.states if len(self.fed_outlets) <= MOST_RANGED_ALONE else {TOGETHER: self.state}
        asked = [
            (key, answer)
            for key, state in ranged.items()
            for answer in self._answers_with_range(key)
            if state.converged and state.solved.used.converged
        ]
        found = ranges_of([(self.states[key].solved.used, answer) for key, answer in asked])
        return {key: range_ for key, range_ in zip(asked, found, strict=True) if range_ is not None}

    def _answers_with_range(self, key: str) -> list[Answer]:
        drawing = [outlet for outlet in self.fed_outlets if key in (TOGETHER, outlet.id)]
        ways = [route for outlet in drawing if (route := self.routes[outlet.id])]
        ways += self.feeds if key == TOGETHER else []
        ends = {end: None for way in ways for leg in way.legs for end in (leg.line.from_, leg.line.to)}
        flow = self.states[key].solved.used
        answers = [outlet_flow(fed) for fed in drawing if flow.outlet_flow_m3s(fed.id) > 0.0 and has_flow_range(fed)]
        return answers + [node_head(end) for end in ends if flow.head_m(end) is not None]

    def flow_range(self, outlet: OutletBase, together: bool = True) -> Range | None:
        """Return the range of an outlet's judged flow [m3/s], None where it has none."""
        return self.ranges.get((TOGETHER if together else outlet.id, outlet_flow(outlet)))

    def band(self, route: Course, key: str = TOGETHER) -> list[tuple[float, float] | None]:
        """Return lowest and highest head [m] at each point of a route; None where the grade shown is not judged by."""
        state = self.states[key]
        if state.flow is not state.solved.used:
            return [None] * len(route.points)
        heads = {answer.part_id: range_ for (of, answer), range_ in self.ranges.items() if of == key and answer.is_head}
        return route_band(route, state.flow, heads)

    def band_to(self, outlet: OutletBase, together: bool = True) -> list[tuple[float, float] | None]:
        """Return the band of the grade along the profile to an outlet."""
        route = self.routes[outlet.id]
        key = TOGETHER if together or outlet.id not in self.states else outlet.id
        return self.band(route, key) if route else []

    def sounding(self, outlet: OutletBase, together: bool = True) -> Sounding | None:
        """Return the sounding at the wanted flow, else at the flow that runs, else nothing.

        It is counted along the way on which the outlet's water comes with all drawing together.
        """
        if together:
            return self._soundings.get(outlet.id)
        return self._soundings_at(outlet.id, [outlet]).get(outlet.id)

    @cached_property
    def _soundings(self) -> dict[str, Sounding]:
        return self._soundings_at(TOGETHER, self.fed_outlets)

    def _soundings_at(self, key: str, outlets: Sequence[OutletBase]) -> dict[str, Sounding]:
        state = self.states.get(key, self.state)
        if not state.converged:
            return {}
        taken = {outlet.id: self.wanted_m3s(outlet) or state.outlets[outlet.id].flow_m3s for outlet in outlets}
        drawing = [outlet for outlet in outlets if self.standing.openings[outlet.id] > 0.0 and taken[outlet.id] > 0.0]
        flow = self.wanted_flows.get(key, self.wanted_flows[TOGETHER])
        return soundings(self.state.flow.ways, flow, drawing, [taken[outlet.id] for outlet in drawing])

    def highest_pipe_m(self, outlet: OutletBase) -> float:
        """Return the greatest height of the pipe [m] on the way to an outlet, all drawing together."""
        return float(self._highest_pipe_m[self.model.plumbing.outlet_nodes[outlet.id]])

    def highest_point(self, outlet: OutletBase) -> int | None:
        """Return the number of the surveyed point at which the pipe to an outlet is highest; None where it has none."""
        route, along = self.routes[outlet.id], self.model.along
        inner = [point.number for point in route.points if along.inner[point.number]] if route else []
        return max(inner, key=lambda number: float(along.pipe_m[number]), default=None)

    def spot_of(self, number: int) -> tuple[str, float]:
        """Return the line of a surveyed point, and how far from its `from` end it lies [m]."""
        point = self.model.along.points[number]
        return point.line_id, point.at_m

    @cached_property
    def _highest_pipe_m(self) -> Floats:
        return highest_pipe_m(self.state.flow.ways, self.state.flow)

    def source_surface_m(self, outlet: OutletBase) -> float:
        """Return the height [m] of the water in the vessel from which the way to an outlet leads."""
        flow = self.state.flow
        return float(flow.heads_m[flow.ways.sources[self.model.plumbing.outlet_nodes[outlet.id]]])

    @cached_property
    def flows_alone_m3s(self) -> dict[str, float]:
        """What each outlet that is meant to run gives drawing by itself [m3/s]."""
        return {
            outlet.id: self.state_of(outlet, together=False).outlets[outlet.id].judged_flow_m3s
            for outlet in self.fed_outlets
        }

    @cached_property
    def refills(self) -> dict[str, Refill]:
        """For each float valve with a way to water: the refill of its vessel by all its valves alone."""
        fillings = {outlet.fills: filling for outlet in self.fed_outlets if (filling := self._filling(outlet))}
        return refills(list(fillings.values()), self.standing)

    def refill(self, outlet: OutletBase) -> Refill | None:
        """Return the refill of the vessel of one outlet, as in `refills`."""
        filling = self._filling(outlet)
        return refills([filling], self.standing).get(outlet.id) if filling else None

    def _filling(self, outlet: OutletBase) -> VesselFilling | None:
        vessel, route = self.model.layout.vessels.get(outlet.fills or ""), self.routes[outlet.id]
        if vessel is None or route is None or not isinstance(outlet, FloatValveOutlet):
            return None
        return VesselFilling(self.valves_of(vessel.id), vessel, route.vessel, self.model)

    def valves_of(self, vessel_id: str) -> list[FloatValveOutlet]:
        """Return the float valves that fill a vessel and have a way to water."""
        return [
            outlet
            for outlet in self.fed_outlets
            if isinstance(outlet, FloatValveOutlet) and outlet.fills == vessel_id and self.routes[outlet.id]
        ]
