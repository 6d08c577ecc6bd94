"""Designs and their revisions."""

import json
from datetime import timedelta
from uuid import UUID

from flask import Response
from pydantic import ValidationError

from leadsman.api.cancelled import check_client
from leadsman.api.errors import NotFound, Unreadable
from leadsman.api.routes import Routes, answer, database, judged
from leadsman.api.schemas import (
    Conflict,
    DeletedBody,
    DesignHeading,
    DesignList,
    DesignPath,
    DesignQuery,
    NewDesign,
    Problem,
    Revision,
    RevisionHeadingBody,
    RevisionLabel,
    RevisionList,
    RevisionPath,
    Save,
    SavedAnalysis,
    SavedBody,
)
from leadsman.core.analysis.work import require_workable
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design import Design
from leadsman.core.design.file import document_faults, write_design
from leadsman.core.report.glance import GlanceReport, glance_report
from leadsman.core.report.workbench import analysis_report
from leadsman.db.design import Page, count_designs, insert_design, select_designs, update_deleted
from leadsman.db.job import cancel_jobs_of
from leadsman.db.revision import (
    OtherSave,
    RevisionRow,
    save,
    select_glance,
    select_head,
    select_headings,
    select_revision,
    update_glance,
    update_label,
)
from leadsman.db.tidy import DELETED_KEPT_DAYS

designs = Routes("designs", __name__, url_prefix="/api/designs")


@designs.get("", operation_id="listDesigns", responses={200: DesignList, 422: Problem})
def list_designs(query: DesignQuery) -> Response:
    """List the designs, last saved first, a page at a time; nothing is opened and nothing judged."""
    page = Page(saved_before=query.saved_before, after_id=query.after_id, length=query.length, deleted=query.deleted)
    with database().transaction() as connection:
        rows, count = select_designs(connection, page), count_designs(connection, query.deleted)
    headings = [
        DesignHeading(
            id=row.id,
            site_name=row.site_name,
            name=row.name,
            number=row.head_number,
            saved_at=row.saved_at,
            made_up=row.demo_key is not None,
            kept_until=row.deleted_at and row.deleted_at + timedelta(days=DELETED_KEPT_DAYS),
            glance=GlanceReport.model_validate(row.glance) if row.glance else None,
        )
        for row in rows
    ]
    return answer(DesignList(designs=headings, count=count))


@designs.post("", operation_id="createDesign", responses={201: Revision, 422: Problem})
def create_design(body: NewDesign) -> Response:
    """Keep a new design as its revision 1; one that is sent again with the same id is kept once."""
    document = write_design(body.document)
    with database().transaction() as connection:
        design_id = insert_design(connection, document, design_id=body.design_id) or body.design_id
        assert design_id is not None, "only a design with an id or a demo key can be there already"
        row = select_revision(connection, design_id, 1)
    if row is None or row.document != document:
        raise _id_taken("/design_id", design_id)
    return answer(_revision(design_id, row), 201)


@designs.get("/<uuid:design_id>", operation_id="readDesign", responses={200: Revision, 404: Problem})
def read_design(path: DesignPath) -> Response:
    """Read a design's head revision."""
    with database().transaction() as connection:
        row = select_head(connection, path.design_id)
    return answer(_revision(path.design_id, row))


@designs.get(
    "/<uuid:design_id>/analysis",
    operation_id="analyseSaved",
    responses={200: SavedAnalysis, 404: Problem, 422: Problem},
)
def analyse_saved(path: DesignPath) -> Response:
    """Solve and judge a design as it was saved last: a page asks for it before it has the design."""
    with database().transaction() as connection:
        row = _revision(path.design_id, select_head(connection, path.design_id))
    report = analysis_report(judged(row.document))
    return answer(SavedAnalysis(number=row.number, analysis=report))


@designs.put(
    "/<uuid:design_id>/deleted", operation_id="deleteDesign", responses={200: DeletedBody, 404: Problem, 422: Problem}
)
def delete_design(path: DesignPath, body: DeletedBody) -> Response:
    """Delete a design, or restore it; all its revisions stay."""
    with database().transaction() as connection:
        if not update_deleted(connection, path.design_id, body.deleted):
            raise NotFound(f"no design {path.design_id}")
        if body.deleted:
            cancel_jobs_of(connection, path.design_id)
    return answer(body)


@designs.get(
    "/<uuid:design_id>/revisions/<int:number>/glance",
    operation_id="glance",
    responses={200: GlanceReport, 404: Problem},
)
def glance(path: RevisionPath) -> Response:
    """Tell how one revision of a design looks and stands; it is judged once, and kept for the list."""
    with database().transaction() as connection:
        known = select_glance(connection, path.design_id, path.number)
        row = None if known else select_revision(connection, path.design_id, path.number)
    if known:
        return answer(GlanceReport.model_validate(known))
    design = _revision(path.design_id, row).document
    require_workable(design)
    seen = glance_report(design, check_client)
    with database().transaction() as connection:
        update_glance(connection, path.design_id, path.number, seen.model_dump(mode="json"), seen.findings)
    return answer(seen)


@designs.put(
    "/<uuid:design_id>",
    operation_id="saveDesign",
    responses={200: SavedBody, 404: Problem, 409: Conflict, 422: Problem},
)
def save_design(path: DesignPath, body: Save) -> Response:
    """Save a document edited from a revision; where somebody saved first, keep both and say so."""
    document = write_design(body.document)
    with database().transaction() as connection:
        try:
            saved = save(connection, path.design_id, body.base_number, document, body.saved_by, body.save_id)
        except OtherSave:
            raise _id_taken("/save_id", body.save_id) from None
        if saved is None:
            raise NotFound(f"no revision {body.base_number} of a design {path.design_id}")
        if saved.standing == "kept":
            return answer(SavedBody(number=saved.number))
        head = select_head(connection, path.design_id)
    assert head is not None, "saved beside it just now"
    # as it is kept, not read: yours is safe by now, whatever version saved the other
    kept = Revision.model_construct(design_id=path.design_id, **{**head.__dict__, "document": None})
    told = {
        "code": "stale",
        "message": f"Somebody saved first. Yours is kept as revision {saved.number}.",
        "kept_as": saved.number,
        "head": {**kept.model_dump(mode="json", exclude={"document"}), "document": head.document},
    }
    return Response(json.dumps(told, ensure_ascii=False), 409, mimetype="application/json")


@designs.get("/<uuid:design_id>/revisions", operation_id="listRevisions", responses={200: RevisionList, 404: Problem})
def list_revisions(path: DesignPath) -> Response:
    """List a design's revisions, newest first."""
    with database().transaction() as connection:
        rows = select_headings(connection, path.design_id)
    if not rows:
        raise NotFound(f"no design {path.design_id}")
    return answer(RevisionList(revisions=[RevisionHeadingBody(**row.__dict__) for row in rows]))


@designs.get(
    "/<uuid:design_id>/revisions/<int:number>", operation_id="readRevision", responses={200: Revision, 404: Problem}
)
def read_revision(path: RevisionPath) -> Response:
    """Read one revision."""
    with database().transaction() as connection:
        row = select_revision(connection, path.design_id, path.number)
    return answer(_revision(path.design_id, row))


@designs.get(
    "/<uuid:design_id>/file",
    operation_id="readHeadFile",
    responses={200: {"description": "The design file"}, 404: Problem},
)
def read_head_file(path: DesignPath) -> Response:
    """Give the file of a design as it was saved last, also where this version cannot read it."""
    with database().transaction() as connection:
        return _file(path.design_id, select_head(connection, path.design_id))


@designs.get(
    "/<uuid:design_id>/revisions/<int:number>/file",
    operation_id="readFile",
    responses={200: {"description": "The design file"}, 404: Problem},
)
def read_file(path: RevisionPath) -> Response:
    """Give the file of one revision as it was saved, also where this version cannot read it."""
    with database().transaction() as connection:
        return _file(path.design_id, select_revision(connection, path.design_id, path.number))


@designs.put(
    "/<uuid:design_id>/revisions/<int:number>/label",
    operation_id="nameRevision",
    responses={200: RevisionLabel, 404: Problem, 422: Problem},
)
def name_revision(path: RevisionPath, body: RevisionLabel) -> Response:
    """Give a revision a name by which it is found again."""
    with database().transaction() as connection:
        if not update_label(connection, path.design_id, path.number, body.label):
            raise NotFound(f"no revision {path.number} of a design {path.design_id}")
    return answer(body)


def _revision(design_id: UUID, row: RevisionRow | None) -> Revision:
    if row is None:
        raise NotFound(f"no such revision of a design {design_id}")
    return Revision(
        design_id=design_id,
        number=row.number,
        parent_number=row.parent_number,
        standing=row.standing,
        saved_at=row.saved_at,
        saved_by=row.saved_by,
        label=row.label,
        document=_document(row),
    )


def _id_taken(path: str, taken: UUID | None) -> DesignFaults:
    return DesignFaults(
        [Fault(path=path, code="id_taken", found=f"{taken}, which came with another plan", allowed="a new UUID")]
    )


def _file(design_id: UUID, row: RevisionRow | None) -> Response:
    if row is None:
        raise NotFound(f"no such revision of a design {design_id}")
    response = Response(json.dumps(row.document, indent=2, ensure_ascii=False), mimetype="application/json")
    response.headers["Content-Disposition"] = f'attachment; filename="plan-revision-{row.number}.json"'
    return response


def _document(row: RevisionRow) -> Design:
    try:
        return Design.model_validate(row.document)
    except ValidationError as error:
        raise Unreadable(row.number, document_faults(error)) from None
