"""Changes of a design that touch several parts of it; nothing is kept."""

from flask import Response

from leadsman.api.editing import edited_body
from leadsman.api.routes import Routes, answer
from leadsman.api.schemas import AskEdit, EditedBody, NewSite, Problem
from leadsman.core.design.edit.first_line import with_first_line
from leadsman.core.design.start import new_design

edits = Routes("edits", __name__, url_prefix="/api/edits")


@edits.post("", operation_id="editDesign", responses={200: EditedBody, 422: Problem})
def edit_design(body: AskEdit) -> Response:
    """Make edits in a design, one after the other; all of them or none."""
    after = edited_body(body)
    return answer(EditedBody(document=after.design, made=after.made, notes=after.notes))


@edits.post("/new", operation_id="newSite", responses={200: EditedBody, 422: Problem})
def new_site(body: NewSite) -> Response:
    """Return a site with where the water starts, and with a first line to a trough where that is told."""
    design = new_design(body.site, body.start, body.name, body.ground_m)
    if body.first_line:
        design = with_first_line(design, body.first_line)
    return answer(EditedBody(document=design, made=["source"], notes=[]))
