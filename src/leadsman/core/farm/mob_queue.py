"""Mobs at troughs as whole animals: each comes, waits for a place at the rim, drinks its draught, and leaves.

All of one mob drink at one rate, so that what an animal has drunk is told by a clock of the mob that runs with what one
that drinks takes: it stands still while a trough is empty. On it an animal drinks from when it has a place until its
draught later. Source: a queue with as many servers as places and one time of service; any text on operations research.
"""

from collections.abc import Sequence

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.farm.drinking import Mob


class MobQueues:
    """Mobs as arrays, shape (mobs,), and their animals, shape (mobs, most animals), those of lesser mobs left empty.

    Attributes:
        comes_s: when each animal comes [s]: evenly, the last of them when all are said to have come; inf for none.
        starts_m3: what one has drunk, on the mob's clock [m3], when the animal finds a place; inf before it has come.
        clock_m3: where each mob's clock stands.
        came: how many have come.
    """

    def __init__(self, mobs: Sequence[Mob]) -> None:
        self.heads = np.array([round(mob.heads) for mob in mobs], dtype=np.intp)
        self.places = [max(1, int(mob.places)) for mob in mobs]
        self.draught_m3, self.rate_m3s = (
            np.array([getattr(mob, key) for mob in mobs], dtype=float) for key in ("draught_m3", "drinks_m3s")
        )
        within = np.array([mob.within_s for mob in mobs], dtype=float)
        number = np.arange(1, int(self.heads.max(initial=1)) + 1)
        self.exists = number[None, :] <= self.heads[:, None]
        share = number[None, :] / np.maximum(self.heads, 1)[:, None]
        self.comes_s = np.where(self.exists, within[:, None] * share, np.inf)
        self.starts_m3 = np.full(self.comes_s.shape, np.inf)
        self.clock_m3 = np.zeros(len(mobs))
        self.came = np.zeros(len(mobs), dtype=np.intp)

    @property
    def left_m3(self) -> Floats:
        """What is still to be drunk by each mob [m3]."""
        return np.asarray(self.heads * self.draught_m3 - self.drunk_m3(self.clock_m3))

    @property
    def are_served(self) -> bool:
        """Whether all animals have drunk."""
        return bool(np.all(self.left_m3 <= 1e-9 * self.heads * self.draught_m3))

    def let_come(self, now_s: float, until_s: float) -> None:
        """Let come who comes until a time: each has a place once the one as many before it as there are places goes."""
        for mob in np.flatnonzero(self.came < self.heads).tolist():
            first, end = int(self.came[mob]), int(np.searchsorted(self.comes_s[mob], until_s, side="right"))
            starts, places = self.starts_m3[mob], self.places[mob]
            clock, rate, draught = self.clock_m3[mob], self.rate_m3s[mob], self.draught_m3[mob]
            on_clock = clock + rate * np.maximum(self.comes_s[mob, first:end] - now_s, 0.0)
            for animal, comes in enumerate(on_clock.tolist(), first):
                starts[animal] = max(comes, starts[animal - places] + draught) if animal >= places else comes
            self.came[mob] = end

    def drunk_m3(self, clock_m3: Floats) -> Floats:
        """Return what each mob has drunk in all [m3] when its clock stands at a figure, shape (mobs,)."""
        own = np.clip(clock_m3[:, None] - self.starts_m3, 0.0, self.draught_m3[:, None])
        return np.asarray(own.sum(axis=1))

    def clock_at_most_m3(self, step_s: float) -> Floats:
        """Return where each clock would stand after a step with water enough [m3]; it runs while one has a place."""
        return self.clock_m3 + self.rate_m3s * step_s

    def waiting(self) -> tuple[Floats, Floats]:
        """Return how many of each mob wait and how many drink as their clocks stand."""
        at = self.clock_m3[:, None]
        begun = (self.starts_m3 <= at).sum(axis=1)
        done = (self.starts_m3 + self.draught_m3[:, None] <= at).sum(axis=1)
        return self.came.astype(float) - begun, (begun - done).astype(float)

    def times_of_m3(self, mob: int, clock_m3: Floats, times_s: Floats, clocks_m3: Floats) -> Floats:
        """Return when a mob's clock came to some figures [s]; inf where it never did.

        Args:
            times_s, clocks_m3: a record of where the clocks stood, shapes (times,) and (times, mobs).
        """
        own = clocks_m3[:, mob]
        reached = np.searchsorted(own, clock_m3 * (1.0 - 1e-12), side="left")
        after = np.minimum(reached, len(own) - 1)
        before = np.maximum(after - 1, 0)
        gained = own[after] - own[before]
        with np.errstate(invalid="ignore"):
            share = np.where(gained > 0.0, (clock_m3 - own[before]) / np.where(gained > 0.0, gained, 1.0), 1.0)
        at = times_s[before] + np.clip(share, 0.0, 1.0) * (times_s[after] - times_s[before])
        return np.asarray(np.where(reached < len(own), at, np.inf))
