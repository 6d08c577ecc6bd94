"""All plans in one ZIP file: every revision a design file of its own, and one page that lists them."""

import json
import lzma
import re
import zipfile
import zlib
from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import IO, Annotated, Any, Literal, Self
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError, model_validator

from leadsman.core.base.fault import DesignFaults, faults_from
from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.catalogue.product import Table
from leadsman.core.design.file import LARGEST_BYTES
from leadsman.core.field.entry import LogEntry
from leadsman.core.report.background import Pin, ReliefReport
from leadsman.core.survey.survey_file import refuse
from leadsman.formats.limits import LARGEST_FILE_BYTES
from leadsman.formats.picture import SUFFIXES

LISTED_IN = "archive.json"
MOST_FILES = 200_000
LARGEST_WHOLE_BYTES = 2_000_000_000
LARGEST_LIST_BYTES = 64_000_000
DAMAGED = (zipfile.BadZipFile, zlib.error, lzma.LZMAError, RuntimeError, EOFError, OSError, ValueError)
Name = Annotated[str, StringConstraints(min_length=1, max_length=200, pattern=TEXT_PATTERN)]


class _Listed(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ArchivedRevision(_Listed):
    """A revision of a plan, without its document."""

    number: int = Field(ge=1)
    parent_number: int | None
    standing: Literal["kept", "sibling"]
    saved_at: datetime
    saved_by: str = Field(max_length=60, pattern=TEXT_PATTERN)
    label: str = Field(max_length=120, pattern=TEXT_PATTERN)


class ArchivedPhoto(_Listed):
    """A photo of an entry of the log: a hash of what was sent, and where it was taken, if that is kept [°]."""

    entry_id: UUID
    sent_hash: str = Field(pattern=r"^[0-9a-f]{64}$")
    latitude_deg: float | None = Field(default=None, ge=-90, le=90)
    longitude_deg: float | None = Field(default=None, ge=-180, le=180)

    @model_validator(mode="after")
    def _is_a_place(self) -> Self:
        if (self.latitude_deg is None) != (self.longitude_deg is None):
            raise ValueError("both latitude and longitude, or neither")
        return self


class ArchivedPlan(_Listed):
    """A plan with its revisions, oldest first; `demo_key` marks made-up data, `log` is how many entries its log has."""

    id: UUID
    folder: str = Field(pattern=r"^[a-z0-9-]{1,120}$")
    demo_key: str | None = Field(max_length=60, pattern=TEXT_PATTERN)
    head_number: int
    last_number: int
    saved_at: datetime
    revisions: list[ArchivedRevision] = Field(min_length=1)
    heights: bool
    picture: str | None = Field(pattern=r"^picture\.(png|jpg|webp)$")
    pins: list[Pin]
    log: int = Field(default=0, ge=0)
    photos: list[ArchivedPhoto] = []

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        numbers = [revision.number for revision in self.revisions]
        if numbers != sorted(set(numbers)) or self.last_number < numbers[-1]:
            raise ValueError("revisions by rising numbers, none above the last number")
        if self.head_number not in [one.number for one in self.revisions if one.standing == "kept"]:
            raise ValueError("a head that is one of the revisions that were kept")
        if any(one.parent_number is not None and one.parent_number not in numbers for one in self.revisions):
            raise ValueError("parents that are there")
        if any((one.parent_number or 0) >= one.number for one in self.revisions):
            raise ValueError("parents that are earlier")
        return self


class ArchivedProduct(_Listed):
    kind: Table
    product: dict[str, Any]


class Listing(_Listed):
    """What an archive holds."""

    format: Literal["leadsman-archive"] = "leadsman-archive"
    version: Literal[1] = 1
    made_at: datetime
    plans: list[ArchivedPlan]
    own_products: list[ArchivedProduct]


class _Site(BaseModel):
    name: Name


class _Heading(BaseModel):
    """What every version of a design file has."""

    format: Literal["leadsman-design"]
    version: int
    name: Name
    site: _Site


def folder_name(document: Mapping[str, Any], design_id: UUID) -> str:
    """Return the folder of a plan in an archive, by which people find it."""
    site = document.get("site")
    names = f"{site.get('name') if isinstance(site, dict) else ''} {document.get('name')}"
    said = re.sub(r"[^a-z0-9]+", "-", names.casefold()).strip("-")[:60].strip("-")
    return f"{said or 'plan'}-{design_id}"


class ArchiveWriter:
    """An archive that is being written, plan by plan; the list of what it holds comes last."""

    def __init__(self, file: IO[bytes]) -> None:
        self._zip = zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=6)
        self._plans: list[ArchivedPlan] = []

    def add_document(self, folder: str, number: int, document: Mapping[str, Any]) -> None:
        """Write the design file of a revision."""
        self._zip.writestr(_document_name(folder, number), json.dumps(document, indent=1, ensure_ascii=False))

    def add_photo(self, folder: str, entry_id: UUID, data: bytes) -> None:
        """Write the photo of an entry."""
        self._zip.writestr(photo_name(folder, entry_id), data, zipfile.ZIP_STORED)

    def add_plan(
        self,
        plan: ArchivedPlan,
        heights: Mapping[str, Any] | None,
        picture: bytes | None,
        log: Sequence[LogEntry] = (),
    ) -> None:
        """Write what a plan has beside its documents."""
        if log:
            lines = "".join(f"{entry.model_dump_json(exclude_none=True)}\n" for entry in log)
            self._zip.writestr(f"plans/{plan.folder}/log.jsonl", lines)
        if heights is not None:
            self._zip.writestr(f"plans/{plan.folder}/heights.json", json.dumps(heights))
        if picture is not None:
            self._zip.writestr(f"plans/{plan.folder}/{plan.picture}", picture, zipfile.ZIP_STORED)
        self._plans.append(plan)

    def finish(self, own_products: list[ArchivedProduct]) -> None:
        """Write the list, and end the file."""
        listing = Listing(made_at=datetime.now(UTC), plans=self._plans, own_products=own_products)
        self._zip.writestr(LISTED_IN, listing.model_dump_json(indent=1))
        self._zip.close()


class Archive:
    """An archive of somebody's: nothing of it is unpacked onto the disk, and nothing larger than it may be is read.

    Raises:
        DesignFaults: on making and on every read: it is no archive, damaged, too large, or says what cannot be.
    """

    def __init__(self, file: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(file)
        except (zipfile.BadZipFile, NotImplementedError, ValueError, OSError):
            raise refuse("/file", "not_an_archive", "no ZIP file", "an archive as Leadsman exports it") from None
        files = self._zip.infolist()
        if len(files) > MOST_FILES or sum(one.file_size for one in files) > LARGEST_WHOLE_BYTES:
            raise refuse("/file", "too_large", f"{len(files):,} files", f"{MOST_FILES:,} files, 2 GB unpacked")
        names = Counter(one.filename for one in files)
        if twice := [name for name, count in names.items() if count > 1]:
            raise refuse(f"/file/{twice[0]}", "twice", "a file that is there twice", "each file once")
        try:
            self.listing = Listing.model_validate(self._json(LISTED_IN, LARGEST_LIST_BYTES))
        except ValidationError as error:
            raise DesignFaults(faults_from(error)) from None
        folders = Counter(plan.folder for plan in self.listing.plans) + Counter(
            str(plan.id) for plan in self.listing.plans
        )
        if again := [name for name, count in folders.items() if count > 1]:
            raise refuse(f"/{LISTED_IN}/plans", "twice", again[0], "each plan once")

    def document(self, plan: ArchivedPlan, number: int) -> dict[str, Any]:
        """Return the document of a revision, also where only another version can read it."""
        name = _document_name(plan.folder, number)
        document = self._json(name, LARGEST_BYTES)
        try:
            _Heading.model_validate(document)
        except ValidationError as error:
            faults = faults_from(error)
            raise refuse(f"/{name}{faults[0].path}", faults[0].code, faults[0].found, faults[0].allowed) from None
        return dict(document)

    def heights(self, plan: ArchivedPlan) -> dict[str, Any] | None:
        """Return the height model of a plan, None where it has none."""
        if not plan.heights:
            return None
        name = f"plans/{plan.folder}/heights.json"
        try:
            return ReliefReport.model_validate(self._json(name, LARGEST_FILE_BYTES)).model_dump()
        except ValidationError:
            raise refuse(f"/{name}", "no_heights", "something else", "a height model") from None

    def log(self, plan: ArchivedPlan) -> list[LogEntry]:
        """Return the entries of a plan's log."""
        if not plan.log:
            return []
        name, found = f"plans/{plan.folder}/log.jsonl", []
        for number, line in enumerate(self._read(name, LARGEST_LIST_BYTES).splitlines(), start=1):
            try:
                found.append(LogEntry.model_validate_json(line))
            except ValidationError as error:
                faults = faults_from(error)
                raise refuse(f"/{name}:{number}", faults[0].code, faults[0].found, faults[0].allowed) from None
        return found

    def picture(self, plan: ArchivedPlan) -> bytes | None:
        """Return the picture under a plan, None where it has none."""
        return self._read(f"plans/{plan.folder}/{plan.picture}", LARGEST_FILE_BYTES) if plan.picture else None

    def photo(self, plan: ArchivedPlan, photo: ArchivedPhoto) -> bytes:
        """Return a photo of a plan's log."""
        return self._read(photo_name(plan.folder, photo.entry_id), LARGEST_FILE_BYTES)

    def _json(self, name: str, most_bytes: int) -> Any:
        text = self._read(name, most_bytes)
        try:
            return json.loads(text)
        except (ValueError, RecursionError):
            raise refuse(f"/{name}", "not_json", "text that is not JSON", "one JSON object") from None

    def _read(self, name: str, most_bytes: int) -> bytes:
        try:
            with self._zip.open(name) as file:
                data = file.read(most_bytes + 1)
        except KeyError:
            raise refuse(f"/{name}", "missing", "nothing", "a file that the archive's list names") from None
        except DAMAGED as error:
            raise refuse(f"/{name}", "damaged", str(error)[:120], "a file that is whole and open") from None
        if len(data) > most_bytes:
            raise refuse(f"/{name}", "too_large", "a larger file", f"at most {most_bytes:,} bytes")
        return data


def picture_name(mime: str) -> str:
    """Return what the picture under a plan is called in an archive."""
    return f"picture.{SUFFIXES[mime]}"


def photo_name(folder: str, entry_id: UUID) -> str:
    """Return what the photo of an entry is called in an archive."""
    return f"plans/{folder}/photos/{entry_id}.jpg"


def _document_name(folder: str, number: int) -> str:
    return f"plans/{folder}/revision-{number:05}.json"
