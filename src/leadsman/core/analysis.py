"""Everything Leadsman says of a design, each part computed when first asked for."""

from dataclasses import dataclass
from functools import cached_property

from leadsman.core.balance import Balance, balance
from leadsman.core.design import Design, FloatValveOutlet, Herd, OutletBase, Requirement, Scenario, Vessel
from leadsman.core.herd import Intake, daily_intake
from leadsman.core.refill import Refill, refill
from leadsman.core.section import SectionPoint, section
from leadsman.core.solve import OutletAnswer, SteadyState, solve
from leadsman.core.sounding import Sounding, sounding
from leadsman.core.spring import planned_flow_m3s
from leadsman.core.store import usable_m3
from leadsman.core.units import LITRE_M3, MINUTE_S, m3s_from_lpm

ORDINARY_DAY = Scenario(id="ordinary-day", name="Ordinary day", air_c=20.0)
DEFAULT_DAYS_IN_HAND = 2.0  # common practice, no source: two independent days in hand


@dataclass(frozen=True)
class HerdNeed:
    """One herd's need: what an animal drinks [L/d], from the table or the user's own figure, and the whole."""

    herd: Herd
    per_head_lpd: float
    table: Intake | None

    @property
    def daily_l(self) -> float:
        """Litres a day of the whole herd."""
        return self.herd.head * self.per_head_lpd


class Analysis:
    """A design with its answers.

    Raises, when a part is asked for:
        DesignFaults, UnknownName, OutOfRange: as `solve` and `daily_intake` do.
    """

    def __init__(self, design: Design) -> None:
        self.design = design
        self.variants: dict[str, Analysis | None] = {}  # what was tried as a remedy, by its patch

    @cached_property
    def state(self) -> SteadyState:
        """The steady state that is judged: every outlet that is not shut by hand drawing fully."""
        return solve(self.design, all_open=True)

    @cached_property
    def scenario(self) -> Scenario:
        """The case that the figures are for."""
        cases = self.design.scenarios
        chosen = [case for case in cases if case.id == self.design.shown_for] or cases[:1]
        return chosen[0] if chosen else ORDINARY_DAY

    @cached_property
    def fed_outlets(self) -> list[OutletBase]:
        """Outlets that are meant to run: not shut by hand."""
        return [outlet for outlet in self.design.outlets if not outlet.shut]

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

    def section(self, outlet: OutletBase) -> list[SectionPoint]:
        """Return the long section to an outlet, at the flow that runs."""
        answer = self.answer(outlet)
        return section(answer.route, answer.flow_m3s) if answer.route else []

    def sounding(self, outlet: OutletBase) -> Sounding | None:
        """Return the sounding at the wanted flow, else at the flow that runs, else nothing."""
        answer = self.answer(outlet)
        flow = self.wanted_m3s(outlet) or answer.flow_m3s
        if answer.route is None or not answer.route.reaches or flow <= 0.0:
            return None
        height_m = self.state.layout.outlet_height_m(outlet)
        return sounding(answer.route, outlet, height_m, flow)

    @cached_property
    def herds(self) -> list[HerdNeed]:
        """Each herd's need in the chosen case."""
        needs = []
        for index, herd in enumerate(self.design.herds):
            if herd.intake_lpd is not None:
                needs.append(HerdNeed(herd, herd.intake_lpd, None))
                continue
            table = daily_intake(herd.animal, herd.weight_kg, self.scenario.air_c, f"/herds/{index}")
            needs.append(HerdNeed(herd, table.litres_per_day, table))
        return needs

    @cached_property
    def sources_of_outlets(self) -> list[Vessel]:
        """Vessels from which open lines lead to an outlet."""
        routes = [answer.route for answer in self.state.outlets.values() if answer.route]
        return list({route.vessel.id: route.vessel for route in routes}.values())

    @cached_property
    def balance(self) -> Balance:
        """A day's need against refill and store, over all vessels that feed outlets."""
        need_m3 = sum(need.daily_l for need in self.herds) * LITRE_M3
        feeding = {vessel.id for vessel in self.sources_of_outlets}
        refill = sum(planned_flow_m3s(inflow.timings) for inflow in self.design.inflows if inflow.fills in feeding)
        return balance(need_m3, refill, sum(usable_m3(vessel) for vessel in self.sources_of_outlets))

    @cached_property
    def refills(self) -> dict[str, Refill]:
        """For each running float valve that fills a vessel: the refill from its level to full."""
        refills = {}
        for outlet in self.fed_outlets:
            answer = self.answer(outlet)
            vessel = self.state.layout.vessels.get(outlet.fills or "")
            if vessel is None or not isinstance(outlet, FloatValveOutlet) or answer.judged_flow_m3s <= 0.0:
                continue
            if answer.route is not None:
                altitude_m = self.design.site.altitude_m
                refills[outlet.id] = refill(outlet, vessel, answer.route, self.state.layout, altitude_m)
        return refills
