"""A row of containers as the chain of tubes that it is: which container hangs on which, and how long it lags."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.array import Floats
from leadsman.core.base.cached import cached_property
from leadsman.core.base.units import DAY_S, m_from_mm
from leadsman.core.design import Line, Vessel
from leadsman.core.design.line_pipe import line_reaches
from leadsman.core.design.store import shape_of
from leadsman.core.farm.container_row import ContainerRow
from leadsman.core.physics.container_chain import ContainerChain
from leadsman.core.physics.pipe import PLASTIC_M, Pipe

JUNCTION_M2 = 1e-5  # of a joint between two tubes, which holds nothing
PEAK_OF_MEAN = np.pi  # plants drink as a half sine over twelve hours of daylight: ours, no source


@dataclass(frozen=True, kw_only=True)
class RowChain:
    """A row's containers in the chain: `spots` say which vessel's and which of its number each is (None: a joint).

    `depths_m` is how deep each stands at the level the float keeps, `taken_m3s` what its plants take on the mean of
    the day shown [m3/s]. `tube_of` says of each tube which line it is of, None for the links between containers.
    """

    chain: ContainerChain
    spots: tuple[tuple[Vessel, int] | None, ...]
    depths_m: Floats
    taken_m3s: Floats
    tube_of: tuple[Line | None, ...]

    @property
    def slowest(self) -> tuple[Line | None, float]:
        """The line, or the links (None), that most of the last container's lag comes from, and its share of the lag."""
        lags, parts, at = self.lags_s, dict[str, tuple[Line | None, float]](), self.last
        while at > 0:
            parent, line = self.chain.parents[at - 1], self.tube_of[at - 1]
            key = "" if line is None else line.id
            parts[key] = (line, parts.get(key, (line, 0.0))[1] + float(lags[at] - lags[parent]))
            at = parent
        line, most_s = max(parts.values(), key=lambda part: part[1])
        return line, most_s / max(self.lag_s, 1e-12)

    @cached_property
    def lags_s(self) -> Floats:
        """How long each container stays behind the float's level [s]."""
        return self.chain.lags_s()

    @property
    def last(self) -> int:
        """The container that lags longest."""
        return int(np.argmax(self.lags_s))

    @property
    def lag_s(self) -> float:
        """How long the last container stays behind the float's level [s]."""
        return float(self.lags_s[self.last])

    def left_m(self, of_mean: float = 1.0) -> Floats:
        """Return how deep each container stands while plants take so many times their mean [m]; below 0 it is empty."""
        return np.asarray(self.depths_m - self.chain.drops_m(of_mean * self.taken_m3s))

    @property
    def lowest_m(self) -> tuple[float, float]:
        """How deep the last container stands on the mean of the day, and when plants take most [m].

        At the peak what the containers hold helps out: the swing around the mean is smaller by the lag against the
        day, 1/sqrt(1 + (2π lag/day)²), as behind one resistance and one store.
        """
        mean, peak = float(self.left_m()[self.last]), float(self.left_m(PEAK_OF_MEAN)[self.last])
        swing = 1.0 / np.hypot(1.0, 2.0 * np.pi * self.lag_s / DAY_S)
        return mean, mean - (mean - peak) * float(swing)


def row_chain(analysis: Analysis, row: ContainerRow) -> RowChain | None:
    """Return the chain of a row; None where the length or bore of links between its containers is unknown.

    Where containers are joined in a ring the shorter way to each counts: they level at least as fast as that.
    """
    links = [vessel for vessel in row.vessels if vessel.count > 1]
    if any(vessel.link_mm is None or vessel.link_m is None for vessel in links):
        return None
    built = _Built(analysis, row)
    if len(built.spots) < 2:
        return None
    chain = ContainerChain(
        tuple(built.areas_m2), tuple(built.parents), tuple(built.tubes), analysis.model.water.kinematic_viscosity_m2s
    )
    planted = [spot is not None and spot[0].role == "bucket_row" for spot in built.spots]
    taken = np.array(planted) * row.demand_m3_per_day / DAY_S / max(1, sum(planted))
    return RowChain(
        chain=chain, spots=tuple(built.spots), depths_m=np.array(built.depths_m), taken_m3s=taken,
        tube_of=tuple(built.tube_of),
    )  # fmt: skip


class _Built:
    """The containers of a row, numbered outward from the one whose float keeps the level."""

    def __init__(self, analysis: Analysis, row: ContainerRow) -> None:
        self.layout, self.own_pipes = analysis.model.layout, analysis.document.own_pipes
        self.surface_m = self.layout.floor_m(row.vessels[0]) + row.outlet.valve.closes_at_m
        self.spots: list[tuple[Vessel, int] | None] = []
        self.areas_m2: list[float] = []
        self.depths_m: list[float] = []
        self.parents: list[int] = []
        self.tubes: list[Pipe] = []
        self.tube_of: list[Line | None] = []
        members = {vessel.id: vessel for vessel in row.vessels}
        waiting = [(row.vessels[0].id, self._vessel(row.vessels[0], None, None))]
        reached = {row.vessels[0].id}
        while waiting:
            here, number = waiting.pop(0)
            for there, tubes, line in self._onward(here):
                vessel = members.get(there)
                if there in reached or (vessel is None and there not in self.layout.places):
                    continue
                reached.add(there)
                hung = number
                for tube in tubes[:-1]:
                    hung = self._joint(hung, tube, line)
                if vessel is None:
                    end = self._joint(hung, tubes[-1], line)
                else:
                    end = self._vessel(vessel, hung, tubes[-1], line)
                waiting.append((there, end))

    def _onward(self, here: str) -> Iterator[tuple[str, list[Pipe], Line]]:
        for number, line in enumerate(self.layout.design.lines):
            if not line.shut and here in (line.from_, line.to):
                tubes = line_reaches(line, f"/lines/{number}", self.own_pipes)
                yield (line.to, tubes, line) if line.from_ == here else (line.from_, tubes[::-1], line)

    def _joint(self, parent: int, tube: Pipe, line: Line) -> int:
        return self._node(None, JUNCTION_M2, 0.0, parent, tube, line)

    def _vessel(self, vessel: Vessel, parent: int | None, tube: Pipe | None, line: Line | None = None) -> int:
        """Number a vessel's containers from where the water comes in; return the one at which lines go on."""
        depth_m = min(max(self.surface_m - self.layout.floor_m(vessel), 0.0), vessel.brim_m)
        area_m2 = max(shape_of(vessel).surface_m2(depth_m) / vessel.count, JUNCTION_M2)
        link = Pipe(length_m=vessel.link_m or 0.0, bore_m=m_from_mm(vessel.link_mm or 1.0), roughness_m=PLASTIC_M)
        first = vessel.count // 2 if vessel.fed_at == "middle" else 0
        numbered = {first: self._node((vessel, first + 1), area_m2, depth_m, parent, tube, line)}
        for at in (*range(first + 1, vessel.count), *range(first - 1, -1, -1)):
            before = numbered[at - 1 if at > first else at + 1]
            numbered[at] = self._node((vessel, at + 1), area_m2, depth_m, before, link)
        return numbered[first if vessel.fed_at == "middle" else vessel.count - 1]

    def _node(
        self,
        spot: tuple[Vessel, int] | None,
        area_m2: float,
        depth_m: float,
        parent: int | None,
        tube: Pipe | None,
        line: Line | None = None,
    ) -> int:
        self.spots.append(spot)
        self.areas_m2.append(area_m2)
        self.depths_m.append(depth_m)
        if parent is not None and tube is not None:
            self.parents.append(parent)
            self.tubes.append(tube)
            self.tube_of.append(line)
        return len(self.spots) - 1
