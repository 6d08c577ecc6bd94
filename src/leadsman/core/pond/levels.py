"""A pond and its filter chamber with the pump on and off."""

from dataclasses import dataclass

from leadsman.core.base.units import LITRE_M3, MILLIMETRE_M, m3s_from_lpm, m_from_mm
from leadsman.core.base.wording import Quantity
from leadsman.core.design import Circulation, Vessel
from leadsman.core.design.store import shape_of
from leadsman.core.physics.fittings import minor_loss_per_flow2
from leadsman.core.physics.pipe import PLASTIC_M, Pipe
from leadsman.core.physics.water import Water


def depth(metres: float) -> Quantity:
    """Return a difference of levels as it is read off a rule at a pond: whole millimetres, metres from one on."""
    if abs(metres) < 1.0:
        return Quantity(value=metres / MILLIMETRE_M, unit="mm", digits=0)
    return Quantity(value=metres, unit="m", digits=2)


@dataclass(frozen=True, kw_only=True)
class Basin:
    """A pond or its chamber: its floor [m on one datum], and its free surface there [m2]."""

    vessel: Vessel
    floor_m: float

    @property
    def brim_m(self) -> float:
        """Height [m] over which it runs out."""
        return self.floor_m + self.vessel.brim_m

    def area_m2(self, surface_m: float) -> float:
        """Return its free surface [m2] with the water at a height [m]."""
        shape = shape_of(self.vessel)
        return max(shape.surface_m2(min(max(surface_m - self.floor_m, 0.0), shape.height_m)), 1e-6)

    def needs_m(self, kinds: tuple[str, ...]) -> float | None:
        """Return the highest level [m on the datum] that something of those kinds in it needs; None where none does."""
        needs = [one.needs_m for one in self.vessel.inside if one.kind in kinds and one.needs_m is not None]
        return self.floor_m + max(needs) if needs else None


@dataclass(frozen=True, kw_only=True)
class LoopLevels:
    """Surfaces [m on one datum] of pond and chamber while the pump runs, and of both when it stops."""

    pond_on_m: float
    chamber_on_m: float
    off_m: float
    area_m2: float

    @property
    def fall_m(self) -> float:
        """How far the chamber stands below the pond while the pump runs [m]."""
        return self.pond_on_m - self.chamber_on_m

    @property
    def opens_off_m3(self) -> float:
        """What a float that swims on the pond lets in each time that the pump stops [m3]; 0 where the level rises."""
        return max(0.0, self.pond_on_m - self.off_m) * self.area_m2

    @property
    def pond_if_set_off_m(self) -> float:
        """Where the pond comes to if a float in the chamber is set with the pump off: the pump then draws it down."""
        return self.off_m + self.fall_m


def loop_fall_m(loop: Circulation, water: Water) -> float:
    """Return how far the chamber stands below the pond while the pump runs [m].

    Source: Darcy–Weisbach and the fittings' K in the pipe between them at the pump's flow.
    """
    pipe = Pipe(length_m=loop.pipe_m, bore_m=m_from_mm(loop.pipe_mm), roughness_m=PLASTIC_M)
    flow = m3s_from_lpm(loop.pump_lpm)
    friction_m, _ = pipe.friction_loss_m(flow, water.kinematic_viscosity_m2s)
    return friction_m + minor_loss_per_flow2(loop.pipe_k, pipe.bore_m) * flow**2


def loop_levels(loop: Circulation, pond: Basin, chamber: Basin, pond_on_m: float, fall_m: float) -> LoopLevels:
    """Return the levels of a pond and its filter chamber, the pond at a height [m] while the pump runs.

    Source: when the pump stops the water of both, and what drains back, stands at one level.
    """
    chamber_on_m = pond_on_m - fall_m
    pond_m2, chamber_m2 = pond.area_m2(pond_on_m), chamber.area_m2(max(chamber_on_m, chamber.floor_m))
    held_on_m = max(chamber_on_m, chamber.floor_m)  # an empty chamber gives nothing more
    back_m3 = loop.drains_back_l * LITRE_M3
    off_m = (pond_m2 * pond_on_m + chamber_m2 * held_on_m + back_m3) / (pond_m2 + chamber_m2)
    return LoopLevels(pond_on_m=pond_on_m, chamber_on_m=chamber_on_m, off_m=off_m, area_m2=pond_m2 + chamber_m2)
