"""Heights from outside: files of surveyed things, the height service; and the plan in open formats."""

from flask import Response, request

from leadsman.api.cancelled import check_client
from leadsman.api.routes import Routes, allow_body, answer, handed_out, settings
from leadsman.api.schemas import AskProfile, ExportAsked, ImportForm, Problem
from leadsman.core.base.errors import UnknownName
from leadsman.core.design.layout import Layout
from leadsman.core.report.survey_import import ImportReport, ProfileAnswer, profile_report
from leadsman.core.survey.line_profile import profile_from_heights, stations, with_profiles
from leadsman.formats.exporting import KINDS, exported
from leadsman.formats.guarded import import_guarded
from leadsman.formats.limits import LARGEST_FILE_BYTES
from leadsman.formats.placed import anchor_of
from leadsman.formats.projection import Plane
from leadsman.services.heights import HeightsUnavailable, ask_heights

FORM_BYTES = 6_000_000

ground = Routes("ground", __name__, url_prefix="/api/ground")


@ground.before_request
def allow_files() -> None:
    """Let files be larger than documents are, where files come in."""
    request.max_form_memory_size = FORM_BYTES
    allow_body(LARGEST_FILE_BYTES + FORM_BYTES)


@ground.post("/imports", operation_id="previewImport", responses={200: ImportReport, 422: Problem})
def preview_import(form: ImportForm) -> Response:
    """Show what a file of surveyed things would make of a design; nothing is kept."""
    with form.file.stream as stream:
        return answer(import_guarded(stream.read(), form.asked, check_client))


@ground.post("/profiles", operation_id="askProfile", responses={200: ProfileAnswer, 422: Problem, 503: Problem})
def ask_profile(body: AskProfile) -> Response:
    """Fill a line's surveyed points from the height service, tied to the ground of the places at its ends."""
    layout = Layout(body.document)
    if body.line not in layout.lines:
        raise UnknownName("line", body.line, list(layout.lines), "/line")
    line = layout.lines[body.line]
    address = settings().height_service_url
    if not address:
        raise HeightsUnavailable("no height service is set up here")
    told = ask_heights(address, Plane(anchor_of(body.document)).degrees(stations(layout, line)))
    known = [height for height in told.heights_m if height is not None]
    if len(known) < len(told.heights_m):
        raise HeightsUnavailable(f"it knows no height at {len(told.heights_m) - len(known)} points of this line")
    profile = profile_from_heights(layout, line, known, told.error_m)
    filled = with_profiles(body.document, [profile], told.source)
    return answer(ProfileAnswer(profile=profile_report(profile), source=told.source, document=filled))


@ground.post("/exports", operation_id="exportDesign", responses={200: None, 422: Problem})
def export_design(body: ExportAsked) -> Response:
    """Export a design as a design file, GPX, GeoJSON, KML or a table of its places."""
    kind = KINDS[body.kind]
    return handed_out(exported(body.document, body.kind), body.document, kind.suffix, kind.mime)
