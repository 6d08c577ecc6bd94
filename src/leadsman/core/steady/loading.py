"""Cases put on a network: heads given, draws, what is closed, what no water reaches, and the numbers of every part."""

from collections import deque
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.design import FixedOutlet, FloatValveOutlet
from leadsman.core.design.outlet_law import SQUARE
from leadsman.core.physics.friction import DarcyWeisbach, FrictionLaw, HazenWilliams
from leadsman.core.solver.network import Cases
from leadsman.core.steady.case import Case
from leadsman.core.steady.plumbing import LimitedDraw, Plumbing


@dataclass(frozen=True, kw_only=True)
class Figures:
    """The numbers of a design that may be uncertain. First axis: one row for each case, or one for all.

    `place_rise_m` is added to each place's ground, `fitting_factor` (for each line) to what its fittings take,
    `kv_factor` (for each outlet to air) to its Kv; `level_rise_m` (for each vessel) to its level; bores and
    roughness are of each reach [m]; `blocked_per_flow2` (for each line) is what something that blocks it takes over
    flow squared [s2/m5].
    """

    place_rise_m: Floats
    level_rise_m: Floats
    bore_m: Floats
    roughness_m: Floats
    fitting_factor: Floats
    kv_factor: Floats
    blocked_per_flow2: Floats


def likely_figures(plumbing: Plumbing) -> Figures:
    """Return the figures as the document gives them, one row."""
    design = plumbing.layout.design
    return Figures(
        place_rise_m=np.zeros((1, len(design.places))),
        level_rise_m=np.zeros((1, len(design.vessels))),
        bore_m=np.array([[pipe.bore_m for pipe in plumbing.reaches]]),
        roughness_m=np.array([[pipe.roughness_m for pipe in plumbing.reaches]]),
        fitting_factor=np.ones((1, len(design.lines))),
        kv_factor=np.ones((1, len(plumbing.to_air))),
        blocked_per_flow2=np.zeros((1, len(design.lines))),
    )


FrictionMaker = Callable[[Plumbing, Figures], FrictionLaw]


def darcy(plumbing: Plumbing, figures: Figures) -> FrictionLaw:
    """Return Darcy–Weisbach's law for the pieces of a network."""
    reach = plumbing.piece_reach
    return DarcyWeisbach(
        plumbing.piece_length_m[None],
        figures.bore_m[:, reach],
        figures.roughness_m[:, reach],
        np.array([[plumbing.water.kinematic_viscosity_m2s]]),
    )


def hazen_williams(plumbing: Plumbing, figures: Figures) -> FrictionLaw:
    """Return Hazen–Williams' law for the pieces of a network, at each line's coefficient."""
    lines = plumbing.layout.design.lines
    coefficient = np.array([lines[line].hazen_williams_c for line in plumbing.reach_line])
    reach = plumbing.piece_reach
    return HazenWilliams(plumbing.piece_length_m[None], figures.bore_m[:, reach], coefficient[None, reach])


@dataclass(frozen=True, kw_only=True)
class _Asked:
    """What cases ask for, one row each: openings [-] of outlets to air, levels and draws, and what passes how."""

    opening: Floats
    levels_m: Floats
    draw_m3s: Floats
    closed: Bools
    way: Ints
    dead: Bools

    def of(self, rows: Ints) -> "_Asked":
        """Return what the cases of some rows ask for, one row each."""
        return _Asked(**{name: array[rows] for name, array in vars(self).items()})


class Loader:
    """Makes the arrays of `Cases` for one network."""

    def __init__(self, plumbing: Plumbing, friction: FrictionMaker = darcy) -> None:
        self.plumbing, self.friction = plumbing, friction
        design = plumbing.layout.design
        layout = plumbing.layout
        place = layout.place_number
        ends = {end for line in design.lines for end in (line.from_, line.to)}
        self.joined = [vessel.id for vessel in design.vessels if vessel.id in ends]  # the others give to no line
        self.vessel_place = layout.vessel_place
        air_places = [outlet.place for outlet in plumbing.to_air] + [draw.place_id for draw in plumbing.limited]
        self.air_place = np.array([place[place_id] for place_id in air_places], dtype=np.intp)
        heights_m = [layout.outlet_height_m(outlet) for outlet in plumbing.to_air]
        heights_m += [layout.ground_m[place[draw.place_id]] + draw.height_m for draw in plumbing.limited]
        self.fixed_flows = {
            outlet.id: m3s_from_lpm(outlet.flow_lpm) for outlet in design.outlets if isinstance(outlet, FixedOutlet)
        }
        self.place_draws = [
            (place[site.id], m3s_from_lpm(site.draw_lpm)) for site in design.places if site.draw_lpm > 0.0
        ]
        self.segment_line, self.first_reach = plumbing.segment_line, plumbing.first_reach
        self.law_scale = np.array([law.scale for law in plumbing.laws])
        self.law_exponent = np.array([law.exponent for law in plumbing.laws])
        self.floats = np.array([isinstance(outlet, FloatValveOutlet) for outlet in plumbing.to_air], dtype=bool)
        self._reached: dict[tuple[frozenset[str], frozenset[str]], Bools] = {}
        self.floor_m, self.air_m = layout.floors_m, np.array(heights_m)
        taken = np.zeros((len(plumbing.segments), 2))
        for link, segment in enumerate(plumbing.segments):
            if segment.lumps:
                taken[link] = segment.taken_per_flow2
        self.on_bore, self.own = taken[:, 0], taken[:, 1]
        self.settings = [segment.setting for segment in plumbing.segments if segment.control is not None]
        self.settings += [m3s_from_lpm(draw.flow_lpm) for draw in plumbing.limited]

    def cases(self, wanted: Sequence[Case], figures: Figures | None = None) -> Cases:
        """Return the cases wanted, in their order; `figures` has one row for each, or one for all."""
        figures = figures or likely_figures(self.plumbing)
        distinct = list({id(case): case for case in wanted}.values())  # of the draws of one case only figures differ
        number = {id(case): row for row, case in enumerate(distinct)}
        asked = self._asked(distinct)
        if len(distinct) < len(wanted):
            which = np.array([number[id(case)] for case in wanted], dtype=np.intp)
            asked = asked.of(which)
        rise = self._rises(figures)
        square, power = self._laws(figures, asked.opening)
        fixed = self.floor_m + asked.levels_m + figures.level_rise_m + rise[0]
        air = np.broadcast_to(self.air_m + rise[1], (len(wanted), len(self.air_m)))
        return Cases(
            friction=self.friction(self.plumbing, figures),
            square=square,
            power_scale=power,
            power_exponent=self.law_exponent[None, self.plumbing.power_outlets],
            fixed_m=np.concatenate([fixed, air], axis=1),
            draw_m3s=asked.draw_m3s,
            closed=asked.closed,
            way=asked.way,
            dead=asked.dead,
            setting=np.array([self.settings]),
        )

    def _asked(self, wanted: Sequence[Case]) -> "_Asked":
        """Return what the cases themselves ask for, whatever the figures."""
        plumbing, net = self.plumbing, self.plumbing.network
        count, links, lines = len(wanted), net.links, len(plumbing.segments)
        opening = np.array([[case.openings[outlet.id] for outlet in plumbing.to_air] for case in wanted]).reshape(
            count, -1
        )
        levels = np.array([[case.levels_m[vessel] for vessel in plumbing.vessels] for case in wanted]).reshape(
            count, -1
        )
        draws = np.zeros((count, net.junctions))
        closed = np.zeros((count, links), dtype=bool)
        way = np.zeros((count, links), dtype=np.intp)
        dead = np.zeros((count, net.junctions), dtype=bool)
        way[:, :lines] = [segment.one_way for segment in plumbing.segments]
        way[:, lines:] = 1
        for row, case in enumerate(wanted):
            dead[row] = ~self.reached(case)[: net.junctions]
            self._close(case, closed[row], way[row])
            self._draw(case, draws[row], opening[row])
        closed[:, lines : lines + opening.shape[1]] |= opening <= 0.0
        for number, draw in enumerate(plumbing.limited):
            closed[:, lines + opening.shape[1] + number] |= [not self._draws(draw, case) for case in wanted]
        both = np.concatenate([dead, np.zeros((count, net.fixed), dtype=bool)], axis=1)
        closed |= both[:, net.start] | both[:, net.end]
        draws[dead] = 0.0
        return _Asked(opening=opening, levels_m=levels, draw_m3s=draws, closed=closed, way=way, dead=dead)

    def reached(self, case: Case) -> Bools:
        """Return which nodes water can get to: from vessels that give, along open lines the way they pass."""
        giving = frozenset(vessel_id for vessel_id in self.joined if self.gives(vessel_id, case))
        key = (giving, case.shut_lines)
        if key not in self._reached:
            self._reached[key] = self._walk(giving, case.shut_lines)
        return self._reached[key]

    def gives(self, vessel_id: str, case: Case) -> bool:
        """Whether a vessel stands above its outlet."""
        return case.levels_m[vessel_id] > self.plumbing.layout.vessels[vessel_id].outlet_m

    def _walk(self, giving: frozenset[str], shut: frozenset[str]) -> Bools:
        plumbing = self.plumbing
        ways: dict[int, list[int]] = {}
        starts, ends = plumbing.network.start.tolist(), plumbing.network.end.tolist()
        for segment, start, end in zip(plumbing.segments, starts, ends, strict=False):
            if segment.line_id not in shut:
                ways.setdefault(start, []).append(end)
                if not segment.one_way and segment.control is None:
                    ways.setdefault(end, []).append(start)
        reached = np.zeros(len(plumbing.junctions) + len(plumbing.vessels), dtype=bool)
        queue = deque(plumbing.vessels[vessel_id] for vessel_id in giving)
        while queue:
            for other in ways.get(queue.popleft(), []):
                if not reached[other] and other < len(plumbing.junctions):
                    reached[other] = True
                    queue.append(other)
        return reached

    def _close(self, case: Case, closed: Bools, way: Ints) -> None:
        plumbing = self.plumbing
        for line_id in case.shut_lines:
            closed[plumbing.of_line[line_id]] = True
        empty = {vessel_id for vessel_id in self.joined if not self.gives(vessel_id, case)}
        if not empty:
            return
        for link, segment in enumerate(plumbing.segments):
            if segment.start in empty and segment.end in empty:
                closed[link] = True
            elif segment.start in empty:
                closed[link] |= segment.one_way or segment.control is not None
                way[link] = -1
            elif segment.end in empty:
                way[link] = 1

    def _draw(self, case: Case, draws: Floats, opening: Floats) -> None:
        """Enter the draws of one case; an outlet that takes exactly a flow has no link of its own."""
        plumbing, node = self.plumbing, self.plumbing.layout.node_of_outlet
        for outlet_id, flow in self.fixed_flows.items() if not plumbing.limited else ():
            if case.openings[outlet_id] > 0.0 and outlet_id not in case.draws_m3s:
                draws[plumbing.junctions[node[outlet_id]]] += flow
        if case.place_draws and not plumbing.limited:
            for place, draw in self.place_draws:
                draws[place] += draw
        for outlet_id, draw in case.draws_m3s.items():
            draws[plumbing.junctions[node[outlet_id]]] += draw
            if outlet_id in plumbing.outlet_link:
                opening[plumbing.outlet_link[outlet_id] - len(plumbing.segments)] = 0.0

    def _draws(self, draw: LimitedDraw, case: Case) -> bool:
        return case.place_draws if draw.outlet_id is None else case.openings[draw.outlet_id] > 0.0

    def _laws(self, figures: Figures, opening: Floats) -> tuple[Floats, Floats]:
        """Return what fittings and outlets take over flow squared, and the scales of outlets of other powers."""
        plumbing = self.plumbing
        blocked = figures.blocked_per_flow2
        count = max(
            len(opening), len(figures.bore_m), len(figures.fitting_factor), len(figures.kv_factor), len(blocked)
        )
        square = np.zeros((count, plumbing.network.links))
        bore = np.array([[segment.bore_m for segment in plumbing.segments]])
        wider = (bore / figures.bore_m[:, self.first_reach[self.segment_line]]) ** 4 if bore.size else bore
        fittings = self.on_bore * wider + self.own
        square[:, : bore.size] = fittings * figures.fitting_factor[:, self.segment_line]
        if blocked.any():
            square[:, plumbing.first_link] += blocked
        factor = figures.kv_factor * np.where(opening > 0.0, opening, 1.0)
        scale = self.law_scale / factor**2
        square[:, bore.size : bore.size + len(self.law_exponent)] = np.where(self.law_exponent == SQUARE, scale, 0.0)
        return square, self.law_scale[None, plumbing.power_outlets]

    def _rises(self, figures: Figures) -> tuple[Floats, Floats]:
        return figures.place_rise_m[:, self.vessel_place], figures.place_rise_m[:, self.air_place]
