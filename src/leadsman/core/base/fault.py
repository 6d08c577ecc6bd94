"""What is wrong in a document: where, what was found, what is allowed; and the faults of a failed validation."""

import json
import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError
from pydantic_core import ErrorDetails, PydanticCustomError

from leadsman.core.base.errors import CoreError
from leadsman.core.base.pattern import ALLOWED

UnionTags = Mapping[str, Collection[str]]
NO_TAGS: UnionTags = {}
PYDANTIC_LIMITS = {
    "greater_than": "more than {gt}",
    "greater_than_equal": "{ge} or more",
    "less_than": "less than {lt}",
    "less_than_equal": "{le} or less",
    "finite_number": "a finite number",
    "float_type": "a number",
    "int_type": "a whole number",
    "int_from_float": "a whole number",
    "string_type": "text",
    "bool_type": "true or false",
    "list_type": "a list",
    "model_type": "an object",
    "model_attributes_type": "an object",
    "missing": "this key, which must be there",
    "extra_forbidden": "only the keys of the published schema",
    "literal_error": "{expected}",
    "string_too_short": "at least {min_length} character(s)",
    "string_too_long": "at most {max_length} characters",
    "too_short": "at least {min_length} item(s)",
    "too_long": "at most {max_length} items",
    "union_tag_invalid": "one of {expected_tags}",
    "union_tag_not_found": "an object with {discriminator}",
}


@dataclass(frozen=True, kw_only=True)
class Fault:
    """One thing wrong in a design file: where (JSON pointer), what was found, what is allowed."""

    path: str
    code: str
    found: str
    allowed: str

    def __str__(self) -> str:
        return f"{self.path or '/'}: found {self.found}; allowed: {self.allowed}"


class DesignFaults(CoreError, ValueError):
    """The document is not a design: every fault found, none of it loaded."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("\n".join(str(fault) for fault in self.faults))


def fault(allowed: str) -> PydanticCustomError:
    """Return the error that a model's validator raises: `faults_from` turns it into a Fault."""
    return PydanticCustomError("not_allowed", "{allowed}", {"allowed": allowed})


def faults_from(error: ValidationError, union_tags: UnionTags = NO_TAGS) -> list[Fault]:
    """Return the faults that a failed validation lists, with JSON pointers into the document.

    Args:
        union_tags: by key of the document, the kinds that validation adds to a location below it.
    """
    return [
        Fault(
            path=pointer(details["loc"], union_tags),
            code=details["type"],
            found=_found(details),
            allowed=_allowed(details),
        )
        for details in error.errors(include_url=False)
    ]


def pointer(location: tuple[int | str, ...], union_tags: UnionTags = NO_TAGS) -> str:
    """Return the JSON pointer (RFC 6901) of a validation location, without the tags of unions."""
    parts = [
        str(part).replace("~", "~0").replace("/", "~1")
        for number, part in enumerate(location)
        if part not in union_tags.get(_tagged(location[:number]), ())
    ]
    return "".join(f"/{part}" for part in parts)


def _tagged(before: tuple[int | str, ...]) -> str:
    """Return what a tag after these parts of a location would belong to."""
    last = before[-2:] if before and isinstance(before[-1], int) else before[-1:]
    return str(last[0]) if last else ""


def found(value: Any) -> str:
    """Return what stood in the document, short enough to print."""
    if isinstance(value, float) and not math.isfinite(value):
        return str(value)
    if isinstance(value, dict):
        return f"an object with {len(value)} key(s)"
    if isinstance(value, list):
        return f"a list of {len(value)}"
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) <= 60 else text[:57] + "…"


def _found(error: ErrorDetails) -> str:
    if error["type"] == "missing":
        return "nothing"
    if error["type"] == "extra_forbidden":
        return f"an unknown key with {found(error['input'])}"
    return found(error["input"])


def _allowed(error: ErrorDetails) -> str:
    if error["type"] == "string_pattern_mismatch":
        pattern = error["ctx"]["pattern"]
        return ALLOWED.get(pattern, f"text as {pattern}")
    template = PYDANTIC_LIMITS.get(error["type"])
    return template.format(**error.get("ctx", {})) if template else error["msg"]  # our own say what is allowed
