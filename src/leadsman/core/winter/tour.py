"""The way round a plan's lines on foot: from each source down, branch after branch, the shorter branch first."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.running import Running
from leadsman.core.base.cached import once_for_each
from leadsman.core.design import Line, OutletBase, PressureSource, Vessel


@dataclass(frozen=True, kw_only=True)
class Passed:
    """What somebody comes by on a line: its part of that `number`, an `outlet`, or its end at a `vessel` that it fills.

    All are None at the end of a pipe with nothing on it.
    """

    line: Line
    number: int | None = None
    outlet: OutletBase | None = None
    vessel: Vessel | None = None


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """Lines that hang together between vessels, in the order of the walk: what they leave, and what is passed."""

    lines: list[Line]
    sources: list[tuple[Line, Vessel | PressureSource]]
    passed: list[Passed]


@once_for_each
def tour(running: Running) -> list[Stretch]:
    """Return the stretches of a plan, the highest source first; lines that no source feeds are the last."""
    stretches = [_stretch(running, lines) for lines in _hanging_together(running)]
    return sorted(stretches, key=lambda one: -max((_height_m(running, source) for _, source in one.sources),
                                                  default=float("-inf")))  # fmt: skip


def _hanging_together(running: Running) -> list[list[Line]]:
    """Return the lines of a plan by what hangs together over ends that are no vessels."""
    vessels, of_end = running.model.layout.vessels, dict[str, list[Line]]()
    for line in running.document.lines:
        for end in {line.from_, line.to} - set(vessels):
            of_end.setdefault(end, []).append(line)
    found: list[list[Line]] = []
    seen: set[str] = set()
    for first in running.document.lines:
        if first.id in seen:
            continue
        seen.add(first.id)
        piece, waiting = list[Line](), [first]
        while waiting:
            line = waiting.pop()
            piece.append(line)
            for other in (other for end in (line.from_, line.to) for other in of_end.get(end, ())):
                if other.id not in seen:
                    seen.add(other.id)
                    waiting.append(other)
        found.append(piece)
    return found


def _height_m(running: Running, source: Vessel | PressureSource) -> float:
    layout = running.model.layout
    return layout.floor_m(source) if isinstance(source, Vessel) else layout.places[source.place].ground_m


def _stretch(running: Running, lines: list[Line]) -> Stretch:
    layout = running.model.layout
    sources: list[tuple[Line, Vessel | PressureSource]] = []
    for line in lines:
        source = layout.vessels.get(line.from_) or layout.sources.get(line.from_)
        if source is not None:
            sources.append((line, source))
    sources.sort(key=lambda pair: -_height_m(running, pair[1]))
    walk = _Walk(running, lines)
    starts = [(line, line.from_) for line, _ in sources] + [(line, line.from_) for line in lines]
    passed = [one for line, end in starts for one in walk.along(line, end)]
    return Stretch(lines=[layout.lines[line_id] for line_id in walk.walked], sources=sources, passed=passed)


class _Walk:
    """A walk over lines that hang together: each is walked once, each place called at once."""

    def __init__(self, running: Running, lines: list[Line]) -> None:
        self.layout = running.model.layout
        self.at: dict[str, list[Line]] = {}
        for line in lines:
            for end in (line.from_, line.to):
                self.at.setdefault(end, []).append(line)
        self.outlets: dict[str, list[OutletBase]] = {}
        for outlet in running.document.outlets:
            self.outlets.setdefault(self.layout.node_of_outlet[outlet.id], []).append(outlet)
        self.walked: dict[str, None] = {}  # in order
        self.called: set[str] = set()

    def along(self, line: Line, start: str) -> Iterator[Passed]:
        """Yield what is passed along a line from one of its ends, and on all lines that go on from there."""
        waiting = [(line, start)]
        while waiting:
            line, start = waiting.pop()
            if line.id in self.walked:
                continue
            self.walked[line.id] = None
            if start not in self.layout.vessels:
                yield from self._at(start, line)
            parts = sorted((part.at_m, number) for number, part in enumerate(line.inline))
            for _, number in parts if start == line.from_ else parts[::-1]:
                yield Passed(line=line, number=number)
            end = line.to if start == line.from_ else line.from_
            vessel = self.layout.vessels.get(end)
            if vessel is not None:
                if end == line.to:
                    yield Passed(line=line, vessel=vessel)
                continue
            yield from self._at(end, line)
            onward = [other for other in self.at[end] if other.id not in self.walked]
            if len(onward) > 1:
                onward.sort(key=lambda other: -self._beyond_m(other, end))
            waiting += [(other, end) for other in onward]

    def _at(self, end: str, line: Line) -> Iterator[Passed]:
        if end in self.called:
            return
        self.called.add(end)
        outlets = self.outlets.get(end, [])
        for outlet in outlets:
            yield Passed(line=line, outlet=outlet)
        if not outlets and len(self.at[end]) == 1 and end not in self.layout.sources:
            yield Passed(line=line)

    def _beyond_m(self, line: Line, start: str) -> float:
        """Return how much pipe lies from an end of a line on, as far as it was not walked [m]."""
        total, seen, waiting = 0.0, set(self.walked), [(line, start)]
        while waiting:
            line, start = waiting.pop()
            if line.id in seen:
                continue
            seen.add(line.id)
            total += line.pipe_length_m
            end = line.to if start == line.from_ else line.from_
            if end not in self.layout.vessels:
                waiting += [(other, end) for other in self.at[end]]
        return total
