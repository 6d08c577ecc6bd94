"""The matrix of the global-gradient method: one pattern per network, values per case and step.

Many cases of a network without controls are eliminated together, step by step. Few cases of a small network are
solved dense, all in one call: there the cost is that of calling array routines. Others are solved sparse, each case
by itself, in an elimination order worked out once.
"""

from typing import Any

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.cached import cached_property
from leadsman.core.solver.elimination import Elimination, elimination_of
from leadsman.core.solver.network import Network

DENSE_UP_TO = 100  # unknowns; measured: above it, factoring sparse is faster
TOGETHER_FROM = 1_000  # unknowns of all cases together; measured: below it, eliminating them together is slower
SMALL_TREES_TOGETHER, PANEL = 4, 2  # measured: with these a tree of 2,000 factors 2.5 times as fast as by default
PIVOT_SHARE = 0.1  # how far below the largest of its column a pivot may be where controls break the symmetry


class SignedSums:
    """Sums of signed values, many at once: by array routines for small networks, by a sparse product for large."""

    def __init__(self, source: Ints, sign: Floats, starts: Ints, values: int, *, sparse: bool) -> None:
        self.source, self.sign, self.starts = source, sign, starts
        self.product = None
        if sparse:
            from scipy.sparse import csr_array

            self.product = csr_array((sign, source, np.append(starts, len(source))), shape=(len(starts), values))

    def __call__(self, values: Floats) -> Floats:
        """Return the sums of each case, shape (cases, sums), of values of shape (cases, values)."""
        if self.product is not None:
            return np.ascontiguousarray((self.product @ values.T).T)
        return np.asarray(np.add.reduceat(values[:, self.source] * self.sign, self.starts, axis=1))


class Matrix:
    """Assembles and solves  K·δ = right  for junction heads and control flows.

    K is the Laplacian of the links' conductances on the junctions, bordered by one row and one column for
    each control. Every entry is a sum of signed values out of one list: the links' conductances, one value
    for each junction, three for each control's own equation, and 1.
    """

    def __init__(self, network: Network) -> None:
        self.network = network
        self.size = network.junctions + len(network.controls)
        self.dense = self.size <= DENSE_UP_TO
        self.pattern: Any = None
        self.row, self.column, self.source, self.sign = self._entries()
        self._lay_out(np.arange(self.size))
        if not self.dense:
            self._lay_out(self._elimination_order())
        n, links = network.junctions, np.arange(network.links)
        into, out = network.end < n, network.start < n
        node = np.concatenate([network.end[into], network.start[out]])
        by = np.argsort(node, kind="stable")
        link = np.concatenate([links[into], links[out]])[by]
        sign = np.concatenate([np.ones(into.sum()), -np.ones(out.sum())])[by]
        nodes, starts = np.unique(node[by], return_index=True)
        self.inflows = SignedSums(link, sign, starts, network.links, sparse=not self.dense)
        self.inflow_node = nodes

    def net_inflow(self, flows_m3s: Floats) -> Floats:
        """Return what flows into each junction less what flows out [m3/s], shape (cases, junctions)."""
        net = np.zeros((len(flows_m3s), self.network.junctions))
        if len(self.inflow_node):
            net[:, self.inflow_node] = self.inflows(flows_m3s)
        return net

    def solve(
        self, conductance: Floats, holds: Floats, control_rows: Floats, right: Floats, *, transposed: bool = False
    ) -> Floats:
        """Return the solution of each case, shape (cases, junctions + controls); of Kᵀ·δ = right where transposed.

        Args:
            conductance: of each link [m3/s per m], 0 where it passes nothing, shape (cases, links).
            holds: what holds each junction's head where it is [m3/s per m], shape (cases, junctions).
            control_rows: factors of head at start, head at end and flow, shape (cases, controls, 3).
        """
        if not self.size:
            return right
        if self.size * len(right) >= TOGETHER_FROM and self._elimination is not None:
            return self._eliminated(*self._elimination, conductance, holds, right)
        entries = self._values(conductance, holds, control_rows)
        if not self.dense:
            return np.stack([self._solve_sparse(*system, transposed) for system in zip(entries, right, strict=True)])
        full = np.zeros((len(right), self.size * self.size))
        full[:, self.flat] = entries
        square = full.reshape(-1, self.size, self.size)
        square = square.transpose(0, 2, 1) if transposed else square
        try:
            return np.asarray(np.linalg.solve(square, right[..., None])[..., 0])
        except np.linalg.LinAlgError:  # some case asks for the impossible; the others must not suffer
            return np.stack([np.linalg.lstsq(matrix, side)[0] for matrix, side in zip(square, right, strict=True)])

    @cached_property
    def _elimination(self) -> "tuple[Elimination, Ints, SignedSums] | None":
        """The elimination of all cases together, with the numbers of the entries that links make, and their sums."""
        net, n = self.network, self.network.junctions
        if len(net.controls):
            return None
        both = (net.start < n) & (net.end < n)
        elimination = elimination_of(n, net.start[both], net.end[both])
        if not elimination.complete:
            return None
        upper = self.row <= self.column
        row, column = self.row[upper].tolist(), self.column[upper].tolist()
        number = np.array([elimination.number(i, j) for i, j in zip(row, column, strict=True)], dtype=np.intp)
        by = np.argsort(number, kind="stable")
        numbers, starts = np.unique(number[by], return_index=True)
        sign, source = self.sign[upper][by], self.source[upper][by]
        sums = SignedSums(source, sign, starts, net.links + n + 1, sparse=not self.dense)
        return elimination, numbers, sums

    def _eliminated(
        self,
        elimination: Elimination,
        numbers: Ints,
        sums: "SignedSums",
        conductance: Floats,
        holds: Floats,
        right: Floats,
    ) -> Floats:
        values = np.concatenate([conductance, holds, np.ones((len(right), 1))], axis=1)
        entries = np.zeros((elimination.entries, len(right)))
        entries[numbers] = sums(values).T
        return np.ascontiguousarray(elimination.solve(entries, right.T.copy()).T)

    def own_responses(self, conductance: Floats, holds: Floats, control_rows: Floats, nodes: Ints) -> Floats:
        """Return by how much a unit of flow let into each node raises its own head [m per m3/s], for one case.

        Args: as `solve`, with one case; `nodes` are junctions.
        """
        columns = np.zeros((self.size, len(nodes)))
        columns[nodes, np.arange(len(nodes))] = 1.0
        answers = self.answers(conductance, holds, control_rows, columns)
        return np.asarray(answers[nodes, np.arange(len(nodes))])

    def answers(self, conductance: Floats, holds: Floats, control_rows: Floats, columns: Floats) -> Floats:
        """Return the solution for each of some right-hand sides of one case, both of shape (unknowns, sides).

        Args: as `solve`, with one case.
        """
        entries = self._values(conductance, holds, control_rows)[0]
        if not self.dense:
            return self._solve_sparse(entries, columns, transposed=False)
        full = np.zeros(self.size * self.size)
        full[self.flat] = entries
        square = full.reshape(self.size, self.size)
        try:
            return np.asarray(np.linalg.solve(square, columns))
        except np.linalg.LinAlgError:  # a part that no water gets to: the others have their answer
            return np.asarray(np.linalg.lstsq(square, columns)[0])

    def _values(self, conductance: Floats, holds: Floats, control_rows: Floats) -> Floats:
        count = len(conductance)
        values = np.concatenate([conductance, holds, control_rows.reshape(count, -1), np.ones((count, 1))], axis=1)
        return self.sums(values)

    def _entries(self) -> tuple[Ints, Ints, Ints, Floats]:
        """Return row, column, number in the list of values, and sign of every contribution."""
        net, n = self.network, self.network.junctions
        start, end, links = net.start, net.end, np.arange(net.links)
        s, e = start < n, end < n
        both = s & e
        count = len(net.controls)
        control, extra = np.arange(count), n + np.arange(count)
        cs, ce = start[net.controls], end[net.controls]
        in_s, in_e = cs < n, ce < n
        own = net.links + np.arange(n)
        equation = net.links + n + 3 * control
        numbers = np.full(count, net.links + n + 3 * count)
        parts = [
            (start[s], start[s], links[s], 1.0),
            (end[e], end[e], links[e], 1.0),
            (start[both], end[both], links[both], -1.0),
            (end[both], start[both], links[both], -1.0),
            (np.arange(n), np.arange(n), own, 1.0),
            (extra[in_s], cs[in_s], equation[in_s], 1.0),
            (extra[in_e], ce[in_e], equation[in_e] + 1, 1.0),
            (extra, extra, equation + 2, 1.0),
            (cs[in_s], extra[in_s], numbers[in_s], 1.0),
            (ce[in_e], extra[in_e], numbers[in_e], -1.0),
        ]
        row, column, source = (np.concatenate([part[i] for part in parts]) for i in range(3))
        return row, column, source, np.concatenate([np.full(len(part[0]), part[3]) for part in parts])

    def _lay_out(self, order: Ints) -> None:
        """Sort the entries by column, then row, with the unknowns in an order: order[k] is the k-th."""
        place = np.empty_like(order)
        place[order] = np.arange(len(order))
        size = max(1, self.size)
        key = place[self.column] * size + place[self.row]
        by = np.argsort(key, kind="stable")
        self.row, self.column, self.source = (array[by] for array in (self.row, self.column, self.source))
        self.sign = self.sign[by]
        unique, starts = np.unique(key[by], return_index=True)
        values = self.network.links + self.network.junctions + 3 * len(self.network.controls) + 1
        self.sums = SignedSums(self.source, self.sign, starts, values, sparse=not self.dense)
        rows, self.entry_column = unique % size, unique // size
        self.flat = rows * self.size + self.entry_column
        self.indices = rows.astype(np.int32)
        self.pointers = np.searchsorted(self.entry_column, np.arange(self.size + 1)).astype(np.int32)
        self.order = order

    def _elimination_order(self) -> Ints:
        """Return an order that makes little fill: least degree first (on a tree none at all)."""
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        heavy = 1e6  # on the diagonal, so that the order depends on the pattern alone
        shape = (self.size, self.size)
        data = np.where(self.indices == self.entry_column, heavy, -1.0)
        pattern = csc_matrix((data, self.indices, self.pointers), shape=shape)
        factored = splu(
            pattern + pattern.T, permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options={"SymmetricMode": True}
        )
        return np.argsort(factored.perm_c).astype(np.intp)

    def _solve_sparse(self, entries: Floats, right: Floats, transposed: bool) -> Floats:
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        symmetric = not len(self.network.controls)
        if self.pattern is None:
            self.pattern = csc_matrix((entries, self.indices, self.pointers), shape=(self.size, self.size))
        matrix = self.pattern
        matrix.data = entries
        matrix = matrix.T.tocsc() if transposed else matrix
        answer = np.zeros_like(right)
        try:
            factored = splu(
                matrix,
                permc_spec="NATURAL",
                diag_pivot_thresh=0.0 if symmetric else PIVOT_SHARE,
                relax=SMALL_TREES_TOGETHER,
                panel_size=PANEL,
                options={"SymmetricMode": symmetric},
            )
            answer[self.order] = factored.solve(right[self.order])
        except RuntimeError:  # exactly singular: no move, and the case will not converge
            pass
        return answer
