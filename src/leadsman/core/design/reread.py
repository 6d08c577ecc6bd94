"""Reading a document that differs little from one that was read before: parts written alike are not checked again."""

import marshal
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

from pydantic import TypeAdapter, ValidationError

from leadsman.core.design import Design
from leadsman.core.design.base import Part
from leadsman.core.design.document import PARTS_KNOWN, with_known_parts

MOST_KEPT = 4  # documents of which the parts are kept, those last read
WITHOUT_REFERENCES = 2  # the version of marshal that writes equal things alike, and tells 1 from 1.0 and from true


@dataclass(frozen=True)
class _Read:
    """A design, each of its lists as it was written, those lists part by part, and all the rest of the document."""

    design: Design
    lists: dict[str, bytes]
    parts: dict[str, list[bytes]]
    rest: bytes


class Rereader:
    """Reads documents, and keeps the last few by their names."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, _Read] = OrderedDict()

    def read(self, document: Any) -> Design:
        """Return the design that parsed JSON holds, its parts the very objects of the last one where written alike.

        Raises:
            ValidationError: as `Design.model_validate` does, whatever was read before.
        """
        if not isinstance(document, dict):
            return Design.model_validate(document)
        kept = self._kept.get(_name(document))
        read = (kept and _with_other_figures(document, kept)) or _checked(document, kept)
        self._keep(document, read)
        return read.design

    def know(self, document: dict[str, Any], design: Design) -> None:
        """Take a design that was read elsewhere, of this document, for the last one."""
        self._keep(document, _read(document, _parts(document), design))

    def _keep(self, document: dict[str, Any], read: _Read) -> None:
        name = _name(document)
        self._kept = OrderedDict([*((one, other) for one, other in self._kept.items() if one != name), (name, read)])
        while len(self._kept) > MOST_KEPT:
            self._kept.popitem(last=False)


def _name(document: dict[str, Any]) -> str:
    return f"{document.get('site')} {document.get('name')}"


def _with_other_figures(document: dict[str, Any], kept: _Read) -> _Read | None:
    """Return a document that differs from one that was read only in figures of some parts; None where it does not."""
    given = {kind: document.get(kind, []) for kind in PARTS_KNOWN}
    if _rest(document) != kept.rest:
        return None
    if any(not isinstance(one, list) or len(one) != len(kept.parts[kind]) for kind, one in given.items()):
        return None
    lists, parts, changed = dict(kept.lists), dict(kept.parts), {}
    for kind, raw in given.items():
        listed = _written(raw)
        if listed == kept.lists[kind]:
            continue
        old, new = kept.parts[kind], [_written(one) for one in raw]
        numbers = [number for number, (one, other) in enumerate(zip(old, new, strict=True)) if one != other]
        changed[kind] = [(number, marshal.loads(old[number]), raw[number]) for number in numbers]
        lists[kind], parts[kind] = listed, new
    design = with_other_parts(kept.design, changed)
    return _Read(design, lists, parts, kept.rest) if design else None


def with_other_parts(design: Design, parts: Mapping[str, Sequence[tuple[int, Any, Any]]]) -> Design | None:
    """Return a design in which some parts have other figures; None where more differs, or they are not good.

    What names a part, or is named by one, is text: where every text stands as before, every reference does.

    Args:
        parts: by list of `PARTS_KNOWN` the number of each part, and its JSON as it was and as it is.
    """
    changed: dict[str, list[Part]] = {}
    for kind, written in parts.items():
        if any(_texts(was) != _texts(now) for _, was, now in written):
            return None
        changed[kind] = list(getattr(design, kind))
        try:
            for number, _, now in written:
                (changed[kind][number],) = _list_of(kind).validate_python([now])
        except ValidationError:
            return None  # reading all of it tells what is wrong, and where
    return design.model_copy(update=changed)


def _checked(document: dict[str, Any], kept: _Read | None) -> _Read:
    """Return a document that is checked whole, but for the parts that are written as they were."""
    known: dict[tuple[str, bytes], Part] = {}
    for kind, parts in kept.parts.items() if kept else ():
        known |= {(kind, one): part for one, part in zip(parts, getattr(kept and kept.design, kind), strict=True)}
    written = _parts(document)
    design = with_known_parts(document, {kind: [known.get((kind, one)) for one in written[kind]] for kind in written})
    return _read(document, written, design)


def _read(document: dict[str, Any], parts: dict[str, list[bytes]], design: Design) -> _Read:
    lists = {kind: _written(document.get(kind, [])) for kind in PARTS_KNOWN}
    return _Read(design, lists, parts, _rest(document))


def _parts(document: dict[str, Any]) -> dict[str, list[bytes]]:
    return {
        kind: [_written(one) for one in listed] if isinstance(listed := document.get(kind), list) else []
        for kind in PARTS_KNOWN
    }


def _rest(document: dict[str, Any]) -> bytes:
    """Return what stands beside the lists of parts, and which of those there are."""
    return _written({key: None if key in PARTS_KNOWN else value for key, value in document.items()})


def _written(value: Any) -> bytes:
    return marshal.dumps(value, WITHOUT_REFERENCES)


def _texts(value: Any) -> Any:
    """Return all that is text in parsed JSON, where it stands; None where there is none."""
    if isinstance(value, dict):
        return {key: text for key, inner in value.items() if (text := _texts(inner)) is not None} or None
    if isinstance(value, list):
        texts = [_texts(inner) for inner in value]
        return texts if any(text is not None for text in texts) else None
    return value if isinstance(value, str) else None


@cache
def _list_of(kind: str) -> TypeAdapter[list[Part]]:
    """Return what checks a list of parts of the document."""
    return TypeAdapter(Design.__annotations__[kind])
