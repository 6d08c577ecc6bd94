"""Changes of a design that touch several parts of it: lines laid, places moved, parts copied and deleted.

Each is a function on the parsed document, which it changes in place; `edited` applies them and checks what comes of it.
May import what `design` may.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.edit import adding, cases, model
from leadsman.core.design.edit.copying import copy_parts
from leadsman.core.design.edit.deleting import delete_parts
from leadsman.core.design.edit.ground import set_ground, set_length, set_point_ground
from leadsman.core.design.edit.laying import add_paddock, add_thing, lay_line, set_fence, set_pipe
from leadsman.core.design.edit.model import Edit
from leadsman.core.design.edit.moving import move_parts, move_places, set_corners
from leadsman.core.design.edit.parts import Document, Outcome
from leadsman.core.design.edit.reshaping import set_shape, set_vessel
from leadsman.core.design.file import read_design

__all__ = ["Edit", "Edited", "apply_edit", "edited"]

MAKERS: dict[type[model.EditBase], Callable[[Document, Any], Outcome]] = {
    model.LayLine: lay_line,
    model.AddThing: add_thing,
    model.AddPaddock: add_paddock,
    model.AddHerd: adding.add_herd,
    model.AddRotation: adding.add_rotation,
    model.AddCrop: adding.add_crop,
    model.SetCropWay: adding.set_crop_way,
    model.AddTimer: adding.add_timer,
    model.AddEvent: adding.add_event,
    model.AddPondLoss: adding.add_pond_loss,
    model.AddInflow: adding.add_inflow,
    model.SetPumpBy: adding.set_pump_by,
    model.AddBook: adding.add_book,
    model.AddSight: adding.add_sight,
    model.AddDistance: adding.add_distance,
    model.SetFence: set_fence,
    model.SetPipe: set_pipe,
    model.MovePlaces: move_places,
    model.MoveParts: move_parts,
    model.SetCorners: set_corners,
    model.SetGround: set_ground,
    model.SetPointGround: set_point_ground,
    model.SetLength: set_length,
    model.SetShape: set_shape,
    model.SetVessel: set_vessel,
    model.AddCase: cases.add_case,
    model.CopyCase: cases.copy_case,
    model.DeleteCase: cases.delete_case,
    model.CopyParts: copy_parts,
    model.DeleteParts: delete_parts,
}


@dataclass(frozen=True, kw_only=True)
class Edited:
    """A design after some edits, the ids of the parts that the last of them made, and what else they did."""

    design: Design
    made: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


def edited(document: Document, edits: Sequence[Edit]) -> Edited:
    """Return the design that comes of edits in a document, made one after the other.

    Args:
        document: parsed JSON of a design; it is changed, and checked once, after the edits.
        edits: none or more.
    Raises:
        DesignFaults: an edit names what is not there, or is refused, or what comes of it is no design.
    """
    made: list[str] = []
    notes: list[str] = []
    for edit in edits:
        outcome = _made(document, edit)
        made, notes = outcome.made, notes + outcome.notes
    return Edited(design=read_design(document), made=made, notes=notes)


def _made(document: Document, edit: Edit) -> Outcome:
    """Make an edit in a document; where it fails because the document is no design, tell what is wrong with that."""
    try:
        return apply_edit(document, edit)
    except (LookupError, TypeError, ValueError, AttributeError, ArithmeticError) as error:
        if isinstance(error, DesignFaults):
            raise
        read_design(document)
        raise


def apply_edit(document: Document, edit: Edit) -> Outcome:
    """Make an edit in a document, in place.

    Raises:
        DesignFaults: it names what is not there, or is refused; the document is then not to be used any more.
    """
    return MAKERS[type(edit)](document, edit)
