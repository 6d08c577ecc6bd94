"""Reach: which ground a source can serve downhill at a wanted flow through one pipe, laid straight."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import OutOfRange
from leadsman.core.catalogue import PipeProduct
from leadsman.core.design import Design, Vessel
from leadsman.core.design.layout import Layout
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import water_at
from leadsman.core.survey.relief import Relief

SAMPLES = 60
AT_ONCE = 4_000


@dataclass(frozen=True, kw_only=True)
class Reach:
    """For each point of a height model the head [m] to spare there, shape (rows, columns); NaN where none is known.

    It is what is left over the demand at the end; where the grade falls under the ground on the way, how far under:
    negative where the water does not get there at the wanted flow, or would have to be sucked over a rise.
    """

    surface_m: float
    loss_per_m: float
    spare_m: Floats


def reach(
    design: Design, relief: Relief, vessel: Vessel, product: PipeProduct, flow_m3s: float, needs_m: float
) -> Reach:
    """Return which ground a vessel's water reaches through a straight line of one pipe on the ground.

    Args:
        flow_m3s: the flow wanted at the end [m3/s], above 0.
        needs_m: head wanted there over the ground [m]: the height of the outlet and what its valve needs.
    Raises:
        OutOfRange: the flow is not above 0, or the demand is negative.
    Source: Darcy–Weisbach with Colebrook–White, as the network's; no fittings.
    """
    if not 0.0 < flow_m3s < 1.0:
        raise OutOfRange("wanted flow", flow_m3s, 0.0, 1.0, "/flow_lpm")
    if not 0.0 <= needs_m <= 500.0:
        raise OutOfRange("head wanted at the end", needs_m, 0.0, 500.0, "/needs_m")
    layout = Layout(design)
    place, surface = layout.places[vessel.place], layout.surface_m(vessel)
    loss = loss_per_m(product, flow_m3s, design.site.water_c)
    rows, columns = relief.heights_m.shape
    east = relief.east_m + relief.step_m * np.arange(columns)
    north = relief.north_m + relief.step_m * np.arange(rows)
    ends = np.stack(np.meshgrid(east, north), axis=-1).reshape(-1, 2)
    start = np.array([place.east_m, place.north_m])
    parts = [_spare(relief, start, place.ground_m, part, surface, loss, needs_m) for part in _split(ends)]
    return Reach(surface_m=surface, loss_per_m=loss, spare_m=np.concatenate(parts).reshape(rows, columns))


def loss_per_m(product: PipeProduct, flow_m3s: float, water_c: float) -> float:
    """Return the friction loss [m per m] of a pipe at a flow [m3/s]."""
    pipe = Pipe(length_m=1.0, bore_m=product.bore_m, roughness_m=product.roughness_m)
    return pipe.friction_loss_m(flow_m3s, water_at(water_c).kinematic_viscosity_m2s)[0]


def _split(ends: Floats) -> list[Floats]:
    return [ends[i : i + AT_ONCE] for i in range(0, len(ends), AT_ONCE)]


def _spare(
    relief: Relief, start: Floats, ground_m: float, ends: Floats, surface_m: float, loss: float, needs_m: float
) -> Floats:
    shares = np.linspace(0.0, 1.0, SAMPLES)
    spots = start + shares[None, :, None] * (ends - start)[:, None, :]
    ground = relief.at(spots)
    ground[:, 0] = ground_m  # where it begins the plan's own height counts
    run = np.hypot(*(ends - start).T)[:, None] / (SAMPLES - 1)
    along = np.cumsum(np.hypot(np.diff(ground, axis=1), run), axis=1)
    over = surface_m - loss * along - ground[:, 1:]
    least, left = np.where(np.isnan(over), np.inf, over).min(axis=1), over[:, -1] - needs_m
    return np.asarray(np.where(least < 0.0, np.minimum(least, left), left))
