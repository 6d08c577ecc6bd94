"""The door to the design document: text or JSON in, a Design or every fault out."""

import json
from typing import Any

from pydantic import ValidationError

from leadsman.core.base.fault import DesignFaults, Fault, faults_from, found
from leadsman.core.design import Design, Weather
from leadsman.core.design.event import WHERE

Json = Any  # parsed JSON of unknown shape, before it is checked

LARGEST_BYTES = 4_000_000
# kinds that validation puts into a location: after "shape", or after the number of a part of these lists
UNION_TAGS = {
    "shape": {"upright_cylinder", "box", "lying_cylinder", "frustum", "stage_volume"},
    "outlets": {"float_valve", "open_end", "fixed", "emitter"},
    "sights": {"hose_level", "clinometer", "barometer", "satellite", "contour", "grid", "timed_flow"},
    "events": {*WHERE, "hot_spell"},
    "pressure_sources": {"mains", "well", "ram"},
    "inflows": {"spring", "rain", "pump", "ram", "haul", "siphon", "transfer", "mains"},
}


def read_design_text(text: bytes | str) -> Design:
    """Return the design that a file holds.

    Raises:
        DesignFaults: it is too large, is not JSON, or is not a design; lists every fault.
    """
    if len(text) > LARGEST_BYTES:
        raise DesignFaults(
            [Fault(path="", code="too_large", found=f"{len(text):,} bytes", allowed=f"at most {LARGEST_BYTES:,} bytes")]
        )
    try:
        document = json.loads(text)
    except (ValueError, RecursionError) as error:
        why = "nesting too deep" if isinstance(error, RecursionError) else str(error)
        raise DesignFaults(
            [Fault(path="", code="not_json", found=f"text that is not JSON ({why})", allowed="one JSON object")]
        ) from None
    return read_design(document)


def read_design(document: Json) -> Design:
    """Return the design that parsed JSON holds.

    Raises:
        DesignFaults: field faults and broken references together, each with its JSON pointer.
    """
    if not isinstance(document, dict):
        raise DesignFaults([Fault(path="", code="wrong_type", found=found(document), allowed="one JSON object")])
    try:
        return Design.model_validate(document)
    except ValidationError as error:
        raise DesignFaults(document_faults(error)) from None


def read_weather(document: Json) -> Weather:
    """Return the daily weather that parsed JSON holds.

    Raises:
        DesignFaults: every fault, each with its JSON pointer.
    """
    try:
        return Weather.model_validate(document)
    except ValidationError as error:
        raise DesignFaults(document_faults(error)) from None


def write_design(design: Design) -> Json:
    """Return the document of a design, as the file format writes it: what was not given stays absent."""
    return design.model_dump(mode="json", by_alias=True, exclude_unset=True)


def document_faults(error: ValidationError) -> list[Fault]:
    """Return the faults of a document, or of what holds one, that failed validation."""
    return faults_from(error, UNION_TAGS)


def schema_text() -> str:
    """Return the JSON Schema of the design file, as published in docs/."""
    schema = Design.model_json_schema(by_alias=True)
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Leadsman design file", **schema}
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
