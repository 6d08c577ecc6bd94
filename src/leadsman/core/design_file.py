"""The door to the design document: text or JSON in, a Design or every fault out."""

import json
import math
from typing import Any

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from leadsman.core.design import CLOCK_PATTERN, DATE_PATTERN, ID_PATTERN, Design, Weather
from leadsman.core.errors import DesignFaults, Fault

Json = Any  # parsed JSON of unknown shape, before it is checked

LARGEST_BYTES = 4_000_000
# kinds that validation puts into a location: after "shape", or after the number of a part of these lists
UNION_TAGS = {
    "shape": {"upright_cylinder", "box", "lying_cylinder", "frustum", "stage_volume"},
    "outlets": {"float_valve", "open_end", "fixed", "emitter"},
    "sights": {"hose_level", "clinometer", "barometer", "satellite", "contour", "grid", "timed_flow"},
    "inflows": {"spring", "rain", "pump", "ram", "haul", "siphon", "transfer", "mains"},
}
PATTERNS = {
    ID_PATTERN: "small letters, digits and . _ -, beginning with a letter or digit, at most 64",
    DATE_PATTERN: "a date as 2026-03-18",
    CLOCK_PATTERN: "a time of day as 06:30",
}
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


def read_design_text(text: bytes | str) -> Design:
    """Return the design that a file holds.

    Raises:
        DesignFaults: it is too large, is not JSON, or is not a design; lists every fault.
    """
    if len(text) > LARGEST_BYTES:
        raise DesignFaults([Fault("", "too_large", f"{len(text):,} bytes", f"at most {LARGEST_BYTES:,} bytes")])
    try:
        document = json.loads(text)
    except (ValueError, RecursionError) as error:
        why = "nesting too deep" if isinstance(error, RecursionError) else str(error)
        raise DesignFaults([Fault("", "not_json", f"text that is not JSON ({why})", "one JSON object")]) from None
    return read_design(document)


def read_design(document: Json) -> Design:
    """Return the design that parsed JSON holds.

    Raises:
        DesignFaults: field faults and broken references together, each with its JSON pointer.
    """
    if not isinstance(document, dict):
        raise DesignFaults([Fault("", "wrong_type", found(document), "one JSON object")])
    try:
        return Design.model_validate(document)
    except ValidationError as error:
        raise DesignFaults(faults_from(error)) from None


def read_weather(document: Json) -> Weather:
    """Return the daily weather that parsed JSON holds.

    Raises:
        DesignFaults: every fault, each with its JSON pointer.
    """
    try:
        return Weather.model_validate(document)
    except ValidationError as error:
        raise DesignFaults(faults_from(error)) from None


def write_design(design: Design) -> Json:
    """Return the document of a design, as the file format writes it: what was not given stays absent."""
    return design.model_dump(mode="json", by_alias=True, exclude_unset=True)


def faults_from(error: ValidationError) -> list[Fault]:
    """Return the faults that a failed validation lists, with JSON pointers into the document."""
    return [
        Fault(pointer(details["loc"]), details["type"], _found(details), _allowed(details))
        for details in error.errors(include_url=False)
    ]


def pointer(location: tuple[int | str, ...]) -> str:
    """Return the JSON pointer (RFC 6901) of a validation location, without the tags of unions."""
    parts = [
        str(part).replace("~", "~0").replace("/", "~1")
        for number, part in enumerate(location)
        if part not in UNION_TAGS.get(_tagged(location[:number]), ())
    ]
    return "".join(f"/{part}" for part in parts)


def _tagged(before: tuple[int | str, ...]) -> str:
    """Return what a tag after these parts of a location would belong to."""
    last = before[-2:] if before and isinstance(before[-1], int) else before[-1:]
    return str(last[0]) if last else ""


def found(value: Json) -> str:
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
        return PATTERNS[error["ctx"]["pattern"]]
    template = PYDANTIC_LIMITS.get(error["type"])
    return template.format(**error.get("ctx", {})) if template else error["msg"]  # our own say what is allowed


def schema_text() -> str:
    """Return the JSON Schema of the design file, as published in docs/."""
    schema = Design.model_json_schema(by_alias=True)
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Leadsman design file", **schema}
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
