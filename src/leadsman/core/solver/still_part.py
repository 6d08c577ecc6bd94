"""Parts of a network in which water stands still behind a valve: what head it keeps there."""

import numpy as np

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.solver.network import Control, Network


def settle_still_parts(
    network: Network, heads_m: Floats, closed: Bools, doors: Bools, way: Ints, setting: Floats
) -> list[int]:
    """Set, in place, the heads of parts that hang behind a one-way link without flow: what it let in.

    Such a part stands still, and only a bound on its head follows from the flows. It keeps the greatest
    head that its doors could give it: that before a check valve, a pump's at no flow, a reducer's setting.
    Return the doors that decided.
    """
    part = joined_parts(network, closed | doors)
    settled = set(part[network.junctions :].tolist())
    controls = zip(network.controls, network.control_kinds, setting, strict=True)
    most = {int(link): float(at) for link, kind, at in controls if kind == Control.REDUCER}
    lifts = {pump.link: float(pump.heads_m[0]) for pump in network.pumps}
    decided: list[int] = []
    while True:
        best: tuple[float, int, int] | None = None
        for link in np.flatnonzero(doors).tolist():
            ends = (network.start[link], network.end[link])
            giver, taker = ends if way[link] >= 0 else ends[::-1]
            if part[giver] in settled and part[taker] not in settled:
                head = min(float(heads_m[giver]) + lifts.get(link, 0.0), most.get(link, np.inf))
                best = max(best, (head, link, int(taker))) if best else (head, link, int(taker))
        if best is None:
            return decided
        head, link, taker = best
        heads_m[part == part[taker]] += head - float(heads_m[taker])
        settled.add(int(part[taker]))
        decided.append(link)


def joined_parts(network: Network, closed: Bools) -> Ints:
    """Return for each node the number of the part that open links join it to."""
    part = np.arange(network.junctions + network.fixed)
    start, end = network.start[~closed], network.end[~closed]
    while True:
        low = np.minimum(part[start], part[end])
        joined = part.copy()
        np.minimum.at(joined, start, low)
        np.minimum.at(joined, end, low)
        joined = joined[joined]
        if (joined == part).all():
            return joined
        part = joined
