"""What runs beside the network in a phase, and when: spells that begin and end, animals that drink on."""

from bisect import bisect_right, insort
from collections.abc import Mapping, Sequence
from dataclasses import replace

from leadsman.core.base.array import Floats
from leadsman.core.base.units import HOUR_S
from leadsman.core.dayrun.balance import Edge, Modes, Rates
from leadsman.core.dayrun.record import State
from leadsman.core.dayrun.spell import Spell

THIRST_M3 = 1e-6  # less is not wanted any more
LEAST_WANTED_S, LEAST_WAIT_S = 60.0, 900.0  # so long at least they drink on, and at an empty trough
WAIT_ON_S = 12.0 * HOUR_S  # after that they have found water elsewhere, or are past it; ours, no source


class Schedule:
    """The spells of a phase, from one time to another [s], with what animals still want from before.

    Args:
        number: of each vessel, by its id.
        also_s: further times at which a step is to end.
    """

    def __init__(
        self,
        spells: Sequence[Spell],
        begins_s: float,
        ends_s: float,
        state: State,
        number: Mapping[str, int],
        also_s: Sequence[float],
    ) -> None:
        self.ends_s, self.state, self.number = ends_s, state, number
        self.spells = sorted(
            (spell for spell in [*spells, *state.wanted] if spell.ends_s > begins_s and spell.begins_s < ends_s),
            key=lambda spell: spell.begins_s,
        )
        self.begun = 0
        self.active = [spell for spell in state.lacked if spell.ends_s <= begins_s]  # whoever still wants to drink on
        edges = {time for spell in self.spells for time in (spell.begins_s, spell.ends_s)} | {ends_s, *also_s}
        self.turns = sorted(time for time in edges if begins_s < time <= ends_s)

    def next_turn(self, time: float) -> float:
        """Return when something begins or ends next [s]."""
        return self.turns[bisect_right(self.turns, time)]

    def running(self, time: float, modes: Modes) -> list[Spell]:
        """Return what runs at a time; at the end, what ran until then."""
        last = time >= self.ends_s
        for spell in [] if last else list(self.active):
            if spell.thirst and spell.ends_s <= time:
                self._want_on(spell, time, modes)
        while self.begun < len(self.spells) and self.spells[self.begun].begins_s <= time:
            self.active.append(self.spells[self.begun])
            self.begun += 1
        self.active = [spell for spell in self.active if time < spell.ends_s or (last and time == spell.ends_s)]
        return [
            spell
            for spell in self.active
            if (spell.switch_m is None or spell.of in self.state.on) and spell.of not in self.state.broken
        ]

    def _want_on(self, spell: Spell, time: float, modes: Modes) -> None:
        """Let animals that did not find enough in a spell drink on as fast, until they have, for some hours.

        Those of one herd at one vessel do so together.
        """
        lacked = self.state.lacked
        lacking_m3 = lacked.pop(spell, 0.0)
        asked = spell if spell.since_s is not None else replace(spell, since_s=spell.ends_s)
        if lacking_m3 <= THIRST_M3 or time - (asked.since_s or time) > WAIT_ON_S:
            return
        others = [one for one in self.active if one.since_s is not None and one.ends_s > time]
        with_them = next((one for one in others if (one.of, one.from_) == (spell.of, spell.from_)), None)
        if with_them is not None:
            lacked[with_them] = lacked.get(with_them, 0.0) + lacking_m3
            return
        dry = modes.held.get(self.number[spell.from_ or ""]) is Edge.FLOOR
        ends = time + max(lacking_m3 / spell.flow_m3s, LEAST_WAIT_S if dry else LEAST_WANTED_S)
        again = replace(asked, begins_s=time, ends_s=ends, flow_m3s=lacking_m3 / (ends - time))
        self.active.append(again)
        self.state.wanted.append(again)
        insort(self.turns, min(ends, self.ends_s))

    def lack(self, running: Sequence[Spell], here: Rates, length_s: float, lacking_m3: Floats) -> None:
        """Add what was wanted in a step and not there, by vessel; what animals drink later is lacking no more."""
        for spell in running:
            if spell.from_ is None:
                continue
            number, wanted_m3 = self.number[spell.from_], spell.flow_m3s * length_s
            missing = float(here.lacking[number])
            share = missing / (missing + float(here.drawn[number])) if missing > 0.0 else 0.0
            lacking_m3[number] += share * wanted_m3 if spell.since_s is None else -(1.0 - share) * wanted_m3
            if spell.thirst and share > 0.0:
                self.state.lacked[spell] = self.state.lacked.get(spell, 0.0) + share * wanted_m3
