"""What can be asked of a design as one edit; each names its kind."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from leadsman.core.catalogue import PipeProduct, VesselProduct
from leadsman.core.design.base import Ground, Id, Length, Name, Plan
from leadsman.core.design.event import RunTime

Spot = Annotated[tuple[Plan, Plan], Field(description="east and north in m")]
Thing = Literal[
    "trough", "drinker", "tap", "drip outlet", "fixed flow", "junction", "tank", "spring box", "pond",
    "mains", "well", "ram",
]  # fmt: skip
Name_ = Annotated[str, Field(max_length=120)]
MOST_PARTS = 5_000


class EditBase(BaseModel):
    """Base of every edit."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


class LayLine(EditBase):
    """Lay a line along a way, from a place or another line; at its end stands a place, a line, or something new.

    `lower_m` is how much lower its end is than its beginning, ground to ground, where something new stands there.
    """

    kind: Literal["lay_line"]
    way: Annotated[list[Spot], Field(min_length=2, max_length=2_000)]
    end: Thing = "junction"
    name: Name_ = ""
    lower_m: Annotated[float, Field(ge=-9_000, le=9_000)] = 0.0


class AddThing(EditBase):
    """Put a thing on the plan; on a line that passes within `on_line_m`, which is cut there, by a tee."""

    kind: Literal["add_thing"]
    spot: Spot
    thing: Thing
    name: Name_
    ground_m: Ground = 0.0
    on_line_m: Annotated[float, Field(ge=0, le=100)] = 0.0


class AddPaddock(EditBase):
    """Fence a paddock in by its corners; its stock drink at an outlet, the nearest where none is named.

    Without a name it is numbered.
    """

    kind: Literal["add_paddock"]
    corners: Annotated[list[Spot], Field(max_length=2_000)] = []
    name: Name | None = None
    outlet: Id | None = None


class AddHerd(EditBase):
    """Add a herd at the first outlet, with figures to start from."""

    kind: Literal["add_herd"]


class AddRotation(EditBase):
    """Add moves of a herd over the summer, at its own water; the year is that of the day shown, else this one."""

    kind: Literal["add_rotation"]
    herd: Id
    year: Annotated[int, Field(ge=1900, le=2200)]


class AddCrop(EditBase):
    """Add plants at the first outlet that fills no vessel, with figures to start from."""

    kind: Literal["add_crop"]


class SetCropWay(EditBase):
    """Tell in another way how much water plants need, with figures to start from."""

    kind: Literal["set_crop_way"]
    crop: Id
    way: Literal["litres", "plants", "area", "minutes"]


class AddTimer(EditBase):
    """Add a timer that waters the first plants."""

    kind: Literal["add_timer"]


class AddEvent(EditBase):
    """Let something happen in a run at a time [s], to a part where one is named, else to the first that it may be.

    It lasts until the next look, with figures to start from.
    """

    kind: Literal["add_event"]
    event: Literal[
        "source_lost", "stuck_open", "stuck_shut", "partly_blocked", "hose_off", "split", "tap_open", "leak",
        "hot_spell", "herd_moved", "freeze", "check_valve_failed", "tipped", "shut_by_hand", "siphon_primed",
    ]  # fmt: skip
    at_s: RunTime
    where: Id | None = None


class AddPondLoss(EditBase):
    """Let a vessel under the sky lose water, with a figure to start from."""

    kind: Literal["add_pond_loss"]
    vessel: Id


class AddInflow(EditBase):
    """Add a source of a kind, filling the first vessel that no float fills, with figures to start from."""

    kind: Literal["add_inflow"]
    source: Literal["spring", "rain", "pump", "ram", "haul", "siphon", "transfer", "mains"]


class SetPumpBy(EditBase):
    """Tell what a pump gives by its curve, or by one flow, with figures to start from."""

    kind: Literal["set_pump_by"]
    inflow: Id
    by: Literal["curve", "flow"]


class AddBook(EditBase):
    """Start a level book, nothing read yet."""

    kind: Literal["add_book"]


class AddSight(EditBase):
    """Start a reading of a kind between the first places of the plan, or from where heights are measured from."""

    kind: Literal["add_sight"]
    way: Literal["hose_level", "clinometer", "barometer", "satellite", "contour", "timed_flow"]


class AddDistance(EditBase):
    """Count a line's length by posts, rolls, paces or a tape."""

    kind: Literal["add_distance"]
    line: Id
    counted: Literal["posts", "rolls", "paces", "tape"]


class SetFence(EditBase):
    """Give a paddock other corners; with fewer than three it is no longer drawn."""

    kind: Literal["set_fence"]
    paddock: Id
    corners: Annotated[list[Spot], Field(max_length=2_000)]


class SetPipe(EditBase):
    """Lay a line in another pipe; a row of the user's own goes with the plan."""

    kind: Literal["set_pipe"]
    line: Id
    product: PipeProduct


class MovePlaces(EditBase):
    """Move places on the plan; the pipe of the lines that end there keeps what it has over its way."""

    kind: Literal["move_places"]
    places: Annotated[dict[Id, Spot], Field(min_length=1, max_length=MOST_PARTS)]


class MoveParts(EditBase):
    """Move the places that parts stand at by so much [m]; lines among them take their corners along."""

    kind: Literal["move_parts"]
    parts: Annotated[list[Id], Field(min_length=1, max_length=MOST_PARTS)]
    by: Spot


class SetCorners(EditBase):
    """Give a line other corners on the plan; its pipe keeps what it has over the way."""

    kind: Literal["set_corners"]
    line: Id
    corners: Annotated[list[Spot], Field(max_length=2_000)]


class SetGround(EditBase):
    """Set a place's ground height, and the ends of the lines that stand there with it.

    `height_error_m` and `height_from` say how good it is and where it comes from, where that is known.
    """

    kind: Literal["set_ground"]
    place: Id
    ground_m: Ground
    height_error_m: Annotated[float, Field(ge=0, le=500)] | None = None
    height_from: Annotated[str, Field(max_length=60)] | None = None


class SetPointGround(EditBase):
    """Set the ground height at one surveyed point of a line; at its ends this moves the place."""

    kind: Literal["set_point_ground"]
    line: Id
    index: Annotated[int, Field(ge=0, le=10_000)]
    ground_m: Ground


class SetLength(EditBase):
    """Set a line's length: its surveyed points and parts keep their share of it."""

    kind: Literal["set_length"]
    line: Id
    length_m: Length


class SetShape(EditBase):
    """Give a vessel a shape of another kind, as high and holding as much."""

    kind: Literal["set_shape"]
    vessel: Id
    shape: Literal["upright_cylinder", "box", "lying_cylinder", "frustum", "stage_volume"]


class SetVessel(EditBase):
    """Make a vessel one of the catalogue."""

    kind: Literal["set_vessel"]
    vessel: Id
    product: VesselProduct


class AddCase(EditBase):
    """Add a case to judge the plan for, and show it; "source lost" and "valve stuck" begin as the case shown."""

    kind: Literal["add_case"]
    case: Literal["ordinary day", "hot spell", "winter day", "source lost", "valve stuck"]


class CopyCase(EditBase):
    """Copy a case, and show the copy."""

    kind: Literal["copy_case"]
    case: Id


class DeleteCase(EditBase):
    """Delete a case."""

    kind: Literal["delete_case"]
    case: Id


class CopyParts(EditBase):
    """Copy parts with their places, so far off; lines between copied places come along."""

    kind: Literal["copy_parts"]
    parts: Annotated[list[Id], Field(min_length=1, max_length=MOST_PARTS)]
    by: Spot


class DeleteParts(EditBase):
    """Delete parts of any kind, with what means nothing without them.

    `with_pipes` also deletes the pipes that end at them and serve nothing else, and the tees these leave.
    """

    kind: Literal["delete_parts"]
    parts: Annotated[list[Id], Field(min_length=1, max_length=MOST_PARTS)]
    with_pipes: bool = False


Edit = Annotated[
    LayLine | AddThing | AddPaddock | AddHerd | AddRotation | AddCrop | SetCropWay | AddTimer | AddEvent
    | AddPondLoss | AddInflow | SetPumpBy | AddBook | AddSight | AddDistance | SetFence | SetPipe | MovePlaces
    | MoveParts | SetCorners | SetGround | SetPointGround | SetLength | SetShape | SetVessel | AddCase | CopyCase
    | DeleteCase | CopyParts | DeleteParts,
    Field(discriminator="kind"),
]  # fmt: skip
