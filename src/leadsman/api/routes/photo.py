"""Photos of the log: each belongs to an entry, is drawn anew before it is kept, and never changed."""

from hashlib import sha256

from flask import Response
from psycopg.errors import ForeignKeyViolation

from leadsman.api.cancelled import check_client
from leadsman.api.errors import NotFound
from leadsman.api.routes import Routes, answer, database
from leadsman.api.routes.ground import allow_files
from leadsman.api.schemas import Problem
from leadsman.api.schemas.log import EntryPath, PhotoForm, PhotoKept, PhotoQuery
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.db.log import entry_kind
from leadsman.db.photo import PhotoRow, insert_photo, photo_hash, select_photo
from leadsman.formats.guarded import photo_guarded
from leadsman.formats.photo import PhotoAsked

UNCHANGING = {"Cache-Control": "private, max-age=31536000, immutable", "X-Content-Type-Options": "nosniff"}

photos = Routes("photos", __name__, url_prefix="/api/designs/<uuid:design_id>/log/<uuid:entry_id>/photo")


photos.before_request(allow_files)


@photos.put("", operation_id="putPhoto", responses={200: PhotoKept, 404: Problem, 422: Problem})
def put_photo(path: EntryPath, form: PhotoForm) -> Response:
    """Keep the photo of an entry that is here already; the same one sent again counts as kept."""
    with form.file.stream as stream:
        sent = stream.read()
    sent_hash = sha256(sent).digest()
    known = _hash_here(path)
    if known is None:
        read = photo_guarded(sent, PhotoAsked(keep_place=form.keep_place), check_client)
        row = PhotoRow(entry_id=path.entry_id, sent_hash=sent_hash, **vars(read))
        try:
            with database().transaction() as connection:
                known = sent_hash if insert_photo(connection, row) else None
        except ForeignKeyViolation:  # its plan was deleted for good meanwhile
            raise _no_entry(path) from None
    if known != sent_hash:
        allowed = "the photo that the entry has, or none: it is never changed"
        raise DesignFaults([Fault(path="/file", code="other_photo", found="another photo", allowed=allowed)])
    return answer(PhotoKept(bytes=len(sent)))


@photos.get("", operation_id="readPhoto", responses={200: None, 404: Problem})
def read_photo(path: EntryPath, query: PhotoQuery) -> Response:
    """Read the photo of an entry, large or small."""
    with database().transaction() as connection:
        row = select_photo(connection, path.design_id, path.entry_id)
    if row is None:
        raise NotFound(f"no photo of an entry {path.entry_id}: it may wait on the phone that took it")
    return Response(row.small if query.small else row.data, 200, UNCHANGING, mimetype="image/jpeg")


def _hash_here(path: EntryPath) -> bytes | None:
    """Return the hash of the photo that an entry has, None where it has none yet.

    Raises:
        NotFound: no such entry.
        DesignFaults: one that is no photo.
    """
    with database().transaction() as connection:
        kind = entry_kind(connection, path.design_id, path.entry_id)
        known = photo_hash(connection, path.entry_id)
    if kind is None:
        raise _no_entry(path)
    if kind != "photo":
        raise DesignFaults([Fault(path="/entry_id", code="no_photo", found=f"a {kind}", allowed="an entry of a photo")])
    return known


def _no_entry(path: EntryPath) -> NotFound:
    return NotFound(f"no entry {path.entry_id} of a plan {path.design_id}")
