"""What lies under a design's plan, and the ground that a source of it can serve."""

import numpy as np
from flask import Response
from psycopg.errors import ForeignKeyViolation

from leadsman.api.cancelled import check_client
from leadsman.api.errors import NotFound
from leadsman.api.routes import Routes, answer, database, settings
from leadsman.api.routes.ground import allow_files
from leadsman.api.schemas import (
    Analyse,
    AskGround,
    AskReach,
    DesignPath,
    GroundBody,
    PictureForm,
    Pins,
    Problem,
    ReliefForm,
)
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.report.background import (
    PictureReport,
    Pin,
    ReachReport,
    ReliefReport,
    picture_report,
    reach_report,
    relief_of,
    relief_report,
)
from leadsman.core.survey.pinning import pinned
from leadsman.core.survey.reach import reach
from leadsman.core.survey.relief import heights_of, mesh_over, relief_over, rows_of
from leadsman.db.background import (
    PictureRow,
    delete_height_model,
    delete_picture,
    put_height_model,
    put_picture,
    select_height_model,
    select_picture,
)
from leadsman.formats.guarded import relief_guarded
from leadsman.formats.picture import picture_mime
from leadsman.formats.placed import anchor_of
from leadsman.formats.projection import Plane
from leadsman.services.heights import HeightsUnavailable, ask_heights

background = Routes("background", __name__, url_prefix="/api/designs/<uuid:design_id>")


background.before_request(allow_files)


@background.get("/relief", operation_id="readRelief", responses={200: ReliefReport, 404: Problem})
def read_relief(path: DesignPath) -> Response:
    """Read a design's height model."""
    return answer(_relief(path))


@background.put("/relief", operation_id="putRelief", responses={200: ReliefReport, 404: Problem, 422: Problem})
def put_relief(path: DesignPath, form: ReliefForm) -> Response:
    """Keep what a file of heights says of the ground under a plan."""
    with form.file.stream as stream:
        return _kept(path, relief_guarded(stream.read(), form.asked, check_client))


@background.post(
    "/relief/service", operation_id="askRelief", responses={200: ReliefReport, 404: Problem, 422: Problem, 503: Problem}
)
def ask_relief(path: DesignPath, body: Analyse) -> Response:
    """Ask the height service for the ground under a plan, and keep what it says."""
    address, design = settings().height_service_url, body.document
    if not address:
        raise HeightsUnavailable("no height service is set up here")
    west, south, step, spots = mesh_over(design)
    metres = [(float(east), float(north)) for east, north in spots.reshape(-1, 2)]
    told = ask_heights(address, Plane(anchor_of(design)).degrees(metres))
    heights = heights_of([told.heights_m]).reshape(spots.shape[:2])
    return _kept(path, relief_report(relief_over(design, (west, south), step, heights, told.source)))


@background.delete("/relief", operation_id="dropRelief", responses={204: None})
def drop_relief(path: DesignPath) -> Response:
    """Forget a design's height model."""
    with database().transaction() as connection:
        delete_height_model(connection, path.design_id)
    return Response(status=204)


@background.post("/relief/ground", operation_id="askGround", responses={200: GroundBody, 404: Problem, 422: Problem})
def ask_ground(path: DesignPath, body: AskGround) -> Response:
    """Tell the ground's height at spots of a plan, between the points of its height model."""
    heights_m = relief_of(_relief(path)).at(np.array([body.spots]))
    return answer(GroundBody(ground_m=rows_of(heights_m)[0]))


@background.post("/reach", operation_id="askReach", responses={200: ReachReport, 404: Problem, 422: Problem})
def ask_reach(path: DesignPath, body: AskReach) -> Response:
    """Tell which ground a vessel of a design can serve at a wanted flow."""
    vessels = {vessel.id: vessel for vessel in body.document.vessels}
    if body.vessel not in vessels:
        raise UnknownName("vessel", body.vessel, list(vessels), "/vessel")
    product, relief = body.document.pipe(body.product, "/product"), relief_of(_relief(path))
    flow = m3s_from_lpm(body.flow_lpm)
    return answer(reach_report(reach(body.document, relief, vessels[body.vessel], product, flow, body.needs_m)))


@background.get("/picture", operation_id="readPicture", responses={200: PictureReport, 404: Problem})
def read_picture(path: DesignPath) -> Response:
    """Read how a design's picture lies on its plan."""
    return answer(_lies([Pin.model_validate(pin) for pin in _picture(path).pins]))


@background.get("/picture/image", operation_id="readImage", responses={200: None, 404: Problem})
def read_image(path: DesignPath) -> Response:
    """Read the picture itself."""
    row = _picture(path)
    headers = {"X-Content-Type-Options": "nosniff", "Cache-Control": "no-cache"}
    return Response(row.data, 200, headers, mimetype=row.mime)


@background.put("/picture", operation_id="putPicture", responses={200: PictureReport, 404: Problem, 422: Problem})
def put_pinned_picture(path: DesignPath, form: PictureForm) -> Response:
    """Keep a picture under a plan, pinned by points that are known in both."""
    lies = _lies(form.pinned.pins)
    with form.file.stream as stream:
        data = stream.read()
    row = PictureRow(mime=picture_mime(data), data=data, pins=[pin.model_dump() for pin in form.pinned.pins])
    _put_picture(path, row)
    return answer(lies)


@background.put("/picture/pins", operation_id="pinPicture", responses={200: PictureReport, 404: Problem, 422: Problem})
def pin_picture(path: DesignPath, body: Pins) -> Response:
    """Pin a design's picture anew."""
    lies, row = _lies(body.pins), _picture(path)
    _put_picture(path, PictureRow(mime=row.mime, data=row.data, pins=[pin.model_dump() for pin in body.pins]))
    return answer(lies)


@background.delete("/picture", operation_id="dropPicture", responses={204: None})
def drop_picture(path: DesignPath) -> Response:
    """Forget a design's picture."""
    with database().transaction() as connection:
        delete_picture(connection, path.design_id)
    return Response(status=204)


def _relief(path: DesignPath) -> ReliefReport:
    with database().transaction() as connection:
        model = select_height_model(connection, path.design_id)
    if model is None:
        raise NotFound(f"no height model of a design {path.design_id}")
    return ReliefReport.model_validate(model)


def _kept(path: DesignPath, relief: ReliefReport) -> Response:
    try:
        with database().transaction() as connection:
            put_height_model(connection, path.design_id, relief.model_dump())
    except ForeignKeyViolation:
        raise NotFound(f"no design {path.design_id}") from None
    return answer(relief)


def _picture(path: DesignPath) -> PictureRow:
    with database().transaction() as connection:
        row = select_picture(connection, path.design_id)
    if row is None:
        raise NotFound(f"no picture of a design {path.design_id}")
    return row


def _put_picture(path: DesignPath, row: PictureRow) -> None:
    try:
        with database().transaction() as connection:
            put_picture(connection, path.design_id, row)
    except ForeignKeyViolation:
        raise NotFound(f"no design {path.design_id}") from None


def _lies(pins: list[Pin]) -> PictureReport:
    fitted = pinned([(pin.x_px, pin.y_px) for pin in pins], [(pin.east_m, pin.north_m) for pin in pins])
    return picture_report(pins, fitted)
