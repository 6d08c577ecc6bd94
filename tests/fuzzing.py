"""Requests made up from the API's own description: plausible, then spoilt; with documents that are nearly right."""

import copy
import csv
import io
import json
import random
import zipfile
from dataclasses import dataclass, field
from typing import Any

from examples import one_line, worked_example
from leadsman.core.base.pattern import CLOCK_PATTERN, DATE_PATTERN, ID_PATTERN
from leadsman.core.catalogue import rows
from leadsman.core.catalogue.product import TABLES
from leadsman.core.design.file import write_design
from leadsman.demo import tamsel_ridge
from leadsman.formats.exporting import exported

Json = Any
SPOILT: list[Json] = [
    None, True, "", "x" * 200_000, "\x00", "a\nb", "\ud800", "=1+1", "../../etc", "<b>", "𝔊🐄", "9999-12-31",
    "2026-02-30", -1, 0, 1, 1e-300, -0.0, 1e300, 2**63, -(2**63), 10**400, float("nan"), float("inf"), [], [[]], {},
    {"a": {"b": []}}, [None] * 500, list(range(1_000)),
]  # fmt: skip
NUMBERS = (0, 1, -1, 0.5, 1e-9, 3, 12.7, 1e6, -273.15)
TEXTS = ("Low trough", "größer", "x", "a b", "", "no-such-thing", "2e", "1,200", "𝔊")
DATES = ("2026-07-14", "2024-02-29", "1800-01-01", "2200-12-31", "2026-02-30")
GARBAGE = ("nothing", "0", "-1", "%00", "..", "a" * 300, "7b0d4c1e-0000-4000-8000-00000000abcd")
DEEPEST = 9


@dataclass
class Request:
    """A request to send."""

    method: str
    path: str
    query: dict[str, Any] = field(default_factory=dict)
    body: Json = None
    text: str | bytes | None = None
    form: dict[str, Any] | None = None


class Fuzzer:
    """Makes up requests to the operations of an OpenAPI document; the same ones from the same seed."""

    def __init__(self, described: dict[str, Any], seed: int, design_ids: list[str]) -> None:
        self._described, self._dice, self._design_ids = described, random.Random(seed), design_ids
        self.operations = [(path, method) for path, methods in described["paths"].items() for method in methods]
        self._documents = [one_line(), worked_example(), write_design(tamsel_ridge())]
        self._document: Json = self._documents[0]
        tables = {table: rows(table)[::7] for table in TABLES}
        self._products = [dict(row) for of in tables.values() for row in of]
        self._plausible = {
            "csv": [_csv([{**row, "source_id": "", "product_id": "mine"} for row in of]) for of in tables.values()],
            "text": ["date,rain mm,most C,least C\n2026-01-01,3.5,21,9\n2026-01-02,0,22,10\n", "day;rain\n1;2\n"],
            "product": [row["product_id"] for row in tables["pipe"]],
            "code": ["neck", "air-lock", "hammer", "flow-below-wanted"],
            "class": ["growing cattle", "ewe"],
        }
        self._files = [exported(tamsel_ridge(), kind) for kind in ("design", "gpx", "kml", "geojson", "csv")]
        self._files += [b"", b"\x89PNG\r\n\x1a\n" + bytes(200), b"RIFF0000WEBP", _archive(one_line())]

    def renew(self, design_ids: list[str]) -> None:
        """Have further requests go to other plans."""
        self._design_ids = design_ids

    def request(self, path: str, method: str) -> Request:
        """Return a request to one operation."""
        dice = self._dice
        self._document = copy.deepcopy(dice.choices(self._documents, (12, 6, 1))[0])
        if dice.random() < 0.35:
            self._spoil(self._document, 1)
        operation = self._described["paths"][path][method]
        query, place = {}, path
        for parameter in operation.get("parameters", []):
            value = self._parameter(parameter)
            if parameter["in"] == "path":
                place = place.replace(f"{{{parameter['name']}}}", str(value))
            elif dice.random() < 0.5:
                query[parameter["name"]] = value
        made = Request(method.upper(), place, query)
        content = operation.get("requestBody", {}).get("content", {})
        if "multipart/form-data" in content:
            made.form = self._form(content["multipart/form-data"]["schema"])
        elif content:
            made.body = {"body": self._value(content["application/json"]["schema"], "")}
            if dice.random() < 0.25:
                self._spoil(made.body, dice.choice((1, 1, 1, 3)))
            made.body = made.body.get("body")
            if dice.random() < 0.03:
                made.text = dice.choice((b"", b"{", b"\xff\xfe", b"[" * 100_000, json.dumps(made.body)[:-5].encode()))
        return made

    def _parameter(self, parameter: dict[str, Any]) -> Json:
        dice = self._dice
        if dice.random() < 0.1:
            return dice.choice(GARBAGE)
        match parameter["name"]:
            case "design_id" | "after_id":
                return dice.choice(self._design_ids)
            case "number":
                return dice.choice((1, 1, 1, 2, 99, 2**40))
            case "saved_before":
                return dice.choice(("2026-01-01T00:00:00Z", "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00"))
        return self._value(parameter["schema"], parameter["name"])

    def _form(self, schema: dict[str, Any]) -> dict[str, Any]:
        form: dict[str, Any] = {}
        for name, of in self._resolved(schema)["properties"].items():
            if name == "file":
                form[name] = (io.BytesIO(self._file()), self._dice.choice(("a.gpx", "a.csv", "a.asc", "a.zip", "ü")))
            else:
                held = {"held": self._value(of, name)}
                if self._dice.random() < 0.3:
                    self._spoil(held, 1)
                form[name] = json.dumps(held.get("held"))
        return form

    def _file(self) -> bytes:
        data, dice = bytearray(self._dice.choice(self._files)), self._dice
        for _ in range(dice.choice((0, 0, 1, 5))):
            if data:
                start = dice.randrange(len(data))
                data[start : start + dice.choice((1, 40))] = dice.randbytes(dice.choice((0, 1, 30)))
        return bytes(data)

    def _resolved(self, schema: dict[str, Any]) -> dict[str, Any]:
        while "$ref" in schema:
            schema = self._described["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]]
        return schema

    def _value(self, schema: dict[str, Any], name: str, depth: int = 0) -> Json:
        """Return a value that a schema describes, more or less; documents are real ones."""
        dice = self._dice
        if schema.get("$ref", "").endswith("/Design"):
            return self._document
        if name == "product" and schema.get("type") == "object":
            return {key: _figure(text) for key, text in dice.choice(self._products).items() if text != ""}
        schema = self._resolved(schema)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return dice.choice(schema["enum"])
        if choices := schema.get("anyOf") or schema.get("oneOf"):
            return self._value(dice.choice(choices), name, depth)
        match schema.get("type"):
            case "object":
                return self._object(schema, depth)
            case "array":
                least = schema.get("minItems", 0)
                count = least if depth > DEEPEST else least + dice.choice((0, 0, 0, 1, 2))
                prefix = schema.get("prefixItems", [])
                items = [self._value(one, name, depth + 1) for one in prefix]
                return items + [
                    self._value(schema.get("items") or {}, name, depth + 1) for _ in range(count - len(items))
                ]
            case "string":
                return self._text(schema, name)
            case "number" | "integer":
                return self._number(schema)
            case "boolean":
                return dice.random() < 0.5
            case "null":
                return None
        return dice.choice((None, 1, "x", [], {}))

    def _object(self, schema: dict[str, Any], depth: int) -> dict[str, Json]:
        required = schema.get("required", [])
        likely = 0.2 if depth < DEEPEST else 0.0
        made = {
            key: self._value(of, key, depth + 1)
            for key, of in schema.get("properties", {}).items()
            if key in required or self._dice.random() < likely
        }
        if isinstance(further := schema.get("additionalProperties"), dict) and depth < DEEPEST:
            made |= {key: self._value(further, key, depth + 1) for key in self._ids()[:2]}
        return made

    def _text(self, schema: dict[str, Any], name: str) -> str:
        dice = self._dice
        if name in self._plausible and dice.random() < 0.9:
            return str(dice.choice(self._plausible[name]))
        if (named := self._named(name)) and dice.random() < 0.9:
            return dice.choice(named)
        match schema.get("pattern"), schema.get("format"):
            case (str(pattern), _) if pattern == DATE_PATTERN:
                return dice.choice(DATES)
            case (str(pattern), _) if pattern == CLOCK_PATTERN:
                return dice.choice(("00:00", "06:30", "23:59"))
            case (str(pattern), _) if pattern == ID_PATTERN:
                return dice.choice([*self._ids(), "a", "no-such-id"])
            case _, "uuid":
                return dice.choice(self._design_ids)
        return dice.choice([*self._ids(), *TEXTS])

    def _number(self, schema: dict[str, Any]) -> Json:
        dice = self._dice
        least = schema.get("minimum", schema.get("exclusiveMinimum"))
        most = schema.get("maximum", schema.get("exclusiveMaximum"))
        if least is None or most is None or dice.random() < 0.1:
            return dice.choice([*NUMBERS, *(one for one in (least, most) if one is not None)])
        if schema["type"] == "integer":
            return dice.randint(int(least), min(int(most), int(least) + 1_000))
        return least + (most - least) * dice.random() ** 4

    def _named(self, name: str) -> list[str]:
        """Return the ids of parts of the kind that a key names, as `line` or `outlets`."""
        parts = self._document.get(name) or self._document.get(f"{name}s") if isinstance(self._document, dict) else None
        parts = parts if isinstance(parts, list) else []
        return [part["id"] for part in parts if isinstance(part, dict) and isinstance(part.get("id"), str)]

    def _ids(self) -> list[str]:
        """Return the ids that the document at hand names, whatever of it is left."""
        document = self._document if isinstance(self._document, dict) else {}
        parts = [part for value in document.values() if isinstance(value, list) for part in value]
        found = [part["id"] for part in parts if isinstance(part, dict) and isinstance(part.get("id"), str)]
        return found[:40] or ["a"]

    def _spoil(self, held: Json, times: int) -> None:
        """Change some places of a document: another value, none, the same twice, or one of another part."""
        dice = self._dice
        for _ in range(times):
            if not (places := list(_places(held))):
                return
            holder, key = dice.choice(places)
            match dice.randrange(5):
                case 0:
                    holder[key] = copy.deepcopy(dice.choice(SPOILT))
                case 1:
                    del holder[key]
                case 2 if isinstance(holder, list):
                    holder.append(copy.deepcopy(holder[key]))
                case 3 if isinstance(holder[key], int | float):
                    holder[key] = holder[key] * dice.choice((-1, 0, 0.001, 1.0001, 1_000))
                case _:
                    other, at = dice.choice(places)
                    holder[key] = copy.deepcopy(other[at])


def _places(held: Json) -> Any:
    """Yield every holder and key of a nested value."""
    waiting = [held]
    while waiting:
        one = waiting.pop()
        keys = list(one) if isinstance(one, dict) else range(len(one)) if isinstance(one, list) else ()
        for key in keys:
            yield one, key
            waiting.append(one[key])


def _figure(text: str) -> Json:
    try:
        return float(text)
    except ValueError:
        return text


def _csv(told: list[dict[str, Any]]) -> str:
    out = io.StringIO()
    writer = csv.DictWriter(out, list(told[0]))
    writer.writeheader()
    writer.writerows(told)
    return out.getvalue()


def _archive(document: Json) -> bytes:
    """Return an archive by hand, with one plan."""
    out, design_id = io.BytesIO(), "7b0d4c1e-0000-4000-8000-00000000abcd"
    revision = {
        "number": 1, "parent_number": None, "standing": "kept", "saved_at": "2026-01-01T00:00:00Z", "saved_by": "",
        "label": "",
    }  # fmt: skip
    plan = {
        "id": design_id, "folder": "plan", "demo_key": None, "head_number": 1, "last_number": 1,
        "revisions": [revision], "saved_at": "2026-01-01T00:00:00Z", "heights": False, "picture": None, "pins": [],
    }  # fmt: skip
    listing = {
        "format": "leadsman-archive", "version": 1, "made_at": "2026-01-01T00:00:00Z", "plans": [plan],
        "own_products": [],
    }  # fmt: skip
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr("archive.json", json.dumps(listing))
        packed.writestr("plans/plan/revision-00001.json", json.dumps(document))
    return out.getvalue()
