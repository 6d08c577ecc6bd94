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
    settled = np.zeros(len(part), dtype=bool)
    settled[part[network.junctions :]] = True
    link = np.flatnonzero(doors)
    forward = way[link] >= 0
    giver = np.where(forward, network.start[link], network.end[link])
    taker = np.where(forward, network.end[link], network.start[link])
    lift, most = _bounds(network, setting)
    decided: list[int] = []
    while True:
        gives = np.flatnonzero(settled[part[giver]] & ~settled[part[taker]])
        if not len(gives):
            return decided
        heads = np.minimum(heads_m[giver[gives]] + lift[link[gives]], most[link[gives]])
        best = int(np.flatnonzero(heads == heads.max())[-1])
        taken = taker[gives[best]]
        heads_m[part == part[taken]] += heads[best] - heads_m[taken]
        settled[part[taken]] = True
        decided.append(int(link[gives[best]]))


def _bounds(network: Network, setting: Floats) -> tuple[Floats, Floats]:
    """Return what each link lifts at no flow [m], and the most head that it lets through [m]."""
    lift, most = np.zeros(network.links), np.full(network.links, np.inf)
    for pump in network.pumps:
        lift[pump.link] = pump.heads_m[0]
    reducers = network.control_kinds == Control.REDUCER
    most[network.controls[reducers]] = setting[reducers]
    return lift, most


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
