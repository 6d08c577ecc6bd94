"""Gaussian elimination of one symmetric pattern for many cases at once, round after round.

A pipe network is nearly a tree. In each round all unknowns that have at most two others beside them, and are not
beside each other, are eliminated together: ends of branches fall off and chains halve, so that a few rounds are
enough. Every step is then one array operation over a whole round and all cases.

Source: rake and compress, Miller and Reif 1985 (from memory); LDLᵀ without pivoting, any text on sparse matrices.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from leadsman.core.base.array import Floats, Ints

MOST_BESIDE = 2  # eliminating an unknown with two others beside it makes one new entry for the two it takes away
MOST_FILL = 4.0  # entries for each unknown beyond which another way of solving is better


@dataclass(frozen=True, kw_only=True)
class _Sums:
    """Rows of an array added up by what they belong to: `of` the target of each sum, in the order `by`."""

    by: Ints
    starts: Ints
    of: Ints

    def __call__(self, rows: Floats) -> Floats:
        return np.asarray(np.add.reduceat(rows[self.by], self.starts, axis=0))


def _sums(targets: list[int]) -> _Sums:
    target = np.array(targets, dtype=np.intp)
    by = np.argsort(target, kind="stable")
    of, starts = np.unique(target[by], return_index=True)
    return _Sums(by=by, starts=starts, of=of)


@dataclass(frozen=True, kw_only=True)
class _Round:
    """What is eliminated together.

    `unknowns`: all of the round; `entry`, `column`, `row`: of each entry under their diagonals, its number, and
    what it joins; `left`, `right`: numbers within these of the two whose product changes what remains.
    """

    unknowns: Ints
    entry: Ints
    column: Ints
    row: Ints
    left: Ints
    right: Ints
    changed: _Sums
    by_row: _Sums
    by_column: _Sums


class Elimination:
    """The order in which the unknowns of one pattern are eliminated, and what each step touches.

    Entries are numbered: the diagonal of unknown i has number i, the others follow, those that arise on the way last.
    """

    def __init__(self, size: int, row: Ints, column: Ints) -> None:
        """Work out the rounds of a symmetric pattern given by its entries off the diagonal, either half or both."""
        self.size = size
        beside: list[set[int]] = [set() for _ in range(size)]
        for i, j in zip(row.tolist(), column.tolist(), strict=True):
            if i != j:
                beside[i].add(j)
                beside[j].add(i)
        pairs = ((i, j) for i, others in enumerate(beside) for j in others if i < j)
        self._number = {pair: size + number for number, pair in enumerate(pairs)}
        self.rounds: list[_Round] = []
        left = list(range(size))
        while left and self.fill <= MOST_FILL:
            left = self._eliminate_some(beside, left)
        self.complete = not left
        self.entries = size + len(self._number)

    @property
    def fill(self) -> float:
        """Entries off the diagonal for each unknown."""
        return len(self._number) / max(1, self.size)

    def number(self, row: int, column: int) -> int:
        """Return the number of an entry."""
        return row if row == column else self._number[min(row, column), max(row, column)]

    def _eliminate_some(self, beside: list[set[int]], left: list[int]) -> list[int]:
        """Eliminate a round of unknowns; return those that are left."""
        most = max(MOST_BESIDE, min(len(beside[junction]) for junction in left))
        chosen: list[int] = []
        blocked: set[int] = set()
        for junction in sorted(left, key=lambda junction: len(beside[junction])):
            if len(beside[junction]) > most:
                break
            if junction not in blocked:
                chosen.append(junction)
                blocked |= beside[junction]
        self.rounds.append(self._round(beside, chosen))
        gone = set(chosen)
        return [junction for junction in left if junction not in gone]

    def _round(self, beside: list[set[int]], chosen: list[int]) -> _Round:
        entry: list[int] = []
        column: list[int] = []
        row: list[int] = []
        pairs: list[tuple[int, int, int]] = []
        for junction in chosen:
            others, first = sorted(beside[junction]), len(entry)
            for a, other in enumerate(others):
                entry.append(self.number(junction, other))
                column.append(junction)
                row.append(other)
                beside[other].discard(junction)
                pairs.append((first + a, first + a, other))
                for b, third in enumerate(others[:a]):
                    key = (third, other)
                    pairs.append((first + a, first + b, self._number.setdefault(key, self.size + len(self._number))))
                    beside[other].add(third)
                    beside[third].add(other)
        return _Round(
            unknowns=np.array(chosen, dtype=np.intp),
            entry=np.array(entry, dtype=np.intp),
            column=np.array(column, dtype=np.intp),
            row=np.array(row, dtype=np.intp),
            left=np.array([a for a, _, _ in pairs], dtype=np.intp),
            right=np.array([b for _, b, _ in pairs], dtype=np.intp),
            changed=_sums([target for *_, target in pairs]),
            by_row=_sums(row),
            by_column=_sums(column),
        )

    def solve(self, entries: Floats, right: Floats) -> Floats:
        """Return the solution of each case, shape (unknowns, cases); 0 throughout where a case has none.

        Args:
            entries: by their numbers, shape (entries, cases); overwritten.
            right: right sides, shape (unknowns, cases); overwritten.
        """
        shares: list[Floats] = []
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            for stage in self.rounds:
                own = entries[stage.entry]
                share = own / entries[stage.column]
                if len(stage.entry):
                    entries[stage.changed.of] -= stage.changed(share[stage.left] * own[stage.right])
                    right[stage.by_row.of] -= stage.by_row(share * right[stage.column])
                shares.append(share)
            for stage, share in zip(self.rounds[::-1], shares[::-1], strict=True):
                right[stage.unknowns] /= entries[stage.unknowns]
                if len(stage.entry):
                    right[stage.by_column.of] -= stage.by_column(share * right[stage.row])
        right[:, ~np.isfinite(right).all(axis=0)] = 0.0
        return right


@lru_cache(maxsize=64)
def _of_pattern(size: int, row: bytes, column: bytes) -> Elimination:
    return Elimination(size, np.frombuffer(row, dtype=np.intp), np.frombuffer(column, dtype=np.intp))


def elimination_of(size: int, row: Ints, column: Ints) -> Elimination:
    """Return the elimination of a pattern; one that was met before is not worked out again."""
    return _of_pattern(size, row.astype(np.intp).tobytes(), column.astype(np.intp).tobytes())
