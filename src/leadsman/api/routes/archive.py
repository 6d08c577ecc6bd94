"""Everything as one file, and back."""

import json
import tempfile
from dataclasses import replace
from datetime import UTC, datetime
from typing import IO, Any
from uuid import UUID, uuid5

from flask import Response, send_file
from psycopg import Connection
from psycopg.rows import TupleRow

from leadsman.api.body_size import LARGEST_ARCHIVE_BYTES
from leadsman.api.cancelled import check_client
from leadsman.api.routes import Routes, allow_body, answer, database
from leadsman.api.routes.log import MOST_ENTRIES, entry_of, row_of
from leadsman.api.schemas import ArchiveForm, ArchiveRead, Problem
from leadsman.core.base.fault import DesignFaults
from leadsman.core.catalogue.own import kept_product
from leadsman.core.field.entry import LogEntry
from leadsman.core.report.background import Pin
from leadsman.db.archive import (
    PlanRow,
    has_head,
    insert_plan,
    insert_revision,
    read_one_moment,
    select_plans,
    stream_documents,
)
from leadsman.db.background import PictureRow, put_height_model, put_picture, select_height_model, select_picture
from leadsman.db.design import update_deleted
from leadsman.db.log import LogPage, entry_kind, insert_entry, select_entries
from leadsman.db.own_product import OwnRow, put_own, select_own
from leadsman.db.photo import PhotoRow, insert_photo, photo_hash, select_photo, select_photographed
from leadsman.db.revision import RevisionRow, select_head, select_headings
from leadsman.formats.archive import (
    Archive,
    ArchivedPhoto,
    ArchivedPlan,
    ArchivedProduct,
    ArchivedRevision,
    ArchiveWriter,
    folder_name,
    photo_name,
    picture_name,
)
from leadsman.formats.guarded import photo_guarded
from leadsman.formats.photo import PhotoAsked, is_plain
from leadsman.formats.picture import picture_mime

IN_MEMORY_BYTES = 8_000_000
LONGEST_NAME = 80

archive = Routes("archive", __name__, url_prefix="/api/archive")


@archive.get("", operation_id="exportAll", responses={200: {"description": "A ZIP file with every plan"}})
def export_all() -> Response:
    """Give every plan that is not deleted, with all its revisions, and all products of one's own."""
    file: IO[bytes] = tempfile.SpooledTemporaryFile(IN_MEMORY_BYTES)  # noqa: SIM115  a large one is closed after the answer
    with database().transaction() as connection:
        read_one_moment(connection)
        writer = ArchiveWriter(file)
        for plan in select_plans(connection):
            _write_plan(connection, writer, plan)
        products = [{"kind": row.kind, "product": row.product} for row in select_own(connection)]
        writer.finish([ArchivedProduct.model_validate(product) for product in products])
    length = file.tell()
    file.seek(0)
    if length > IN_MEMORY_BYTES:
        response = send_file(file, "application/zip")
        response.call_on_close(file.close)
    else:
        with file:
            response = Response(file.read(), mimetype="application/zip")
    response.headers["Content-Disposition"] = f'attachment; filename="leadsman-{datetime.now(UTC):%Y-%m-%d}.zip"'
    return response


@archive.post("", operation_id="importAll", responses={200: ArchiveRead, 422: Problem})
def import_all(form: ArchiveForm) -> Response:
    """Put back what an archive holds, all of it or nothing; nothing that is here is written over."""
    outcomes = {"added": 0, "there": 0, "beside": 0}
    with form.file.stream as stream, database().transaction() as connection:
        read = Archive(stream)
        for plan in read.listing.plans:
            outcomes[_put_plan(connection, read, plan)] += 1
        added, left = _put_products(connection, read.listing.own_products)
    return answer(ArchiveRead(**outcomes, products_added=added, products_left=left))


@archive.before_request
def allow_archives() -> None:
    """Let an archive be larger than documents are."""
    allow_body(LARGEST_ARCHIVE_BYTES)


def _write_plan(connection: Connection[TupleRow], writer: ArchiveWriter, plan: PlanRow) -> None:
    head = select_head(connection, plan.id)
    assert head is not None, "a design has a head"
    folder = folder_name(head.document, plan.id)
    for number, document in stream_documents(connection, plan.id):
        check_client()
        writer.add_document(folder, number, document)
    picture = select_picture(connection, plan.id)
    heights = select_height_model(connection, plan.id)
    headings = select_headings(connection, plan.id)
    photos = []
    for entry_id in select_photographed(connection, plan.id):
        check_client()
        photo = select_photo(connection, plan.id, entry_id)
        assert photo is not None, "all is read as of one moment"
        writer.add_photo(folder, entry_id, photo.data)
        place = {"latitude_deg": photo.latitude_deg, "longitude_deg": photo.longitude_deg}
        photos.append(ArchivedPhoto(entry_id=entry_id, sent_hash=photo.sent_hash.hex(), **place))
    entries = [entry_of(row) for row in select_entries(connection, plan.id, LogPage(length=MOST_ENTRIES))]
    writer.add_plan(
        ArchivedPlan(
            **vars(plan),
            folder=folder,
            revisions=[ArchivedRevision(**vars(heading)) for heading in reversed(headings)],
            heights=heights is not None,
            picture=picture_name(picture.mime) if picture else None,
            pins=[Pin.model_validate(pin) for pin in picture.pins] if picture else [],
            log=len(entries),
            photos=photos,
        ),
        heights,
        picture.data if picture else None,
        entries,
    )


def _put_plan(connection: Connection[TupleRow], read: Archive, plan: ArchivedPlan) -> str:
    """Put a plan back; one that differs from that of its id is put beside it, once, under an id that follows."""
    head = read.document(plan, plan.head_number)
    if (same := has_head(connection, plan.id, head)) is None:
        return _insert(connection, read, plan, plan.id, "added")
    if same:
        update_deleted(connection, plan.id, False)
        _put_log(connection, read, plan, plan.id)
        return "there"
    beside = uuid5(plan.id, json.dumps(head, sort_keys=True))
    if has_head(connection, beside, head) is not None:
        update_deleted(connection, beside, False)
        _put_log(connection, read, plan, beside)
        return "there"
    return _insert(connection, read, plan, beside, "beside")


def _put_log(connection: Connection[TupleRow], read: Archive, plan: ArchivedPlan, design_id: UUID) -> None:
    """Add entries and photos of a log to those that are there; of a plan put beside another under ids that follow."""
    for entry in read.log(plan):
        own = entry if design_id == plan.id else _beside(entry, design_id)
        insert_entry(connection, design_id, row_of(own, own.happened_at))
    for photo in plan.photos:
        check_client()
        entry_id = photo.entry_id if design_id == plan.id else uuid5(design_id, str(photo.entry_id))
        if entry_kind(connection, design_id, entry_id) == "photo" and photo_hash(connection, entry_id) is None:
            try:
                row = _photo_row(read.photo(plan, photo), photo, entry_id)
            except DesignFaults as refused:
                faults = [
                    replace(fault, path=f"/{photo_name(plan.folder, photo.entry_id)}") for fault in refused.faults
                ]
                raise DesignFaults(faults) from None
            insert_photo(connection, row)


def _photo_row(data: bytes, photo: ArchivedPhoto, entry_id: UUID) -> PhotoRow:
    """Return a photo as it is kept: what was drawn anew once stays as it is, once it is known for a photo."""
    drawn = photo_guarded(data, PhotoAsked(), check_client)
    return PhotoRow(
        entry_id=entry_id, sent_hash=bytes.fromhex(photo.sent_hash), small=drawn.small,
        data=data if is_plain(data) else drawn.data,
        latitude_deg=photo.latitude_deg, longitude_deg=photo.longitude_deg,
    )  # fmt: skip


def _beside(entry: LogEntry, design_id: UUID) -> LogEntry:
    corrects = entry.corrects and uuid5(design_id, str(entry.corrects))
    return entry.model_copy(update={"id": uuid5(design_id, str(entry.id)), "corrects": corrects})


def _insert(connection: Connection[TupleRow], read: Archive, plan: ArchivedPlan, design_id: UUID, outcome: str) -> str:
    row = {name: getattr(plan, name) for name in ("demo_key", "head_number", "last_number", "saved_at")}
    insert_plan(connection, PlanRow(id=design_id, **row))
    for revision in plan.revisions:
        check_client()
        document = read.document(plan, revision.number)
        insert_revision(connection, design_id, RevisionRow(**dict(revision), document=document))
    _put_log(connection, read, plan, design_id)
    if (heights := read.heights(plan)) is not None:
        put_height_model(connection, design_id, heights)
    if (data := read.picture(plan)) is not None:
        mime = picture_mime(data, f"/plans/{plan.folder}/{plan.picture}")
        pins: list[dict[str, Any]] = [pin.model_dump() for pin in plan.pins]
        put_picture(connection, design_id, PictureRow(mime=mime, data=data, pins=pins))
    return outcome


def _put_products(connection: Connection[TupleRow], products: list[ArchivedProduct]) -> tuple[int, list[str]]:
    """Add the products that are missing; return how many, and the names of those that differ here or cannot be read."""
    known = {(row.kind, row.product_id): row.product for row in select_own(connection)}
    added, left = [], []
    for told in products:
        product = kept_product(told.kind, told.product)
        if product is None or not product.is_own:
            left.append(str(told.product.get("product_id"))[:LONGEST_NAME])
            continue
        here = known.get((told.kind, product.product_id))
        kept = product.model_dump(exclude_none=True)
        if here is None:
            added.append(OwnRow(kind=told.kind, product_id=product.product_id, product=kept))
        elif here != kept:
            left.append(product.product_id)
    put_own(connection, added)
    return len(added), left
