"""Archives of all plans: exported, changed as somebody might, and sent back."""

import io
import json
import zipfile
from collections.abc import Callable
from typing import Any

import psycopg
from flask.testing import FlaskClient


def emptied(url: str) -> None:
    with psycopg.connect(url) as connection:
        connection.execute("TRUNCATE design, own_product CASCADE")


def exported_by(client: FlaskClient) -> bytes:
    return bytes(client.get("/api/archive", buffered=True).data)


def sent(client: FlaskClient, data: bytes) -> Any:
    return client.post("/api/archive", data={"file": (io.BytesIO(data), "all.zip")})


def rewritten(data: bytes, change: Callable[[dict[str, bytes]], None]) -> bytes:
    with zipfile.ZipFile(io.BytesIO(data)) as opened:
        files = {name: opened.read(name) for name in opened.namelist()}
    change(files)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as written:
        for name, content in files.items():
            written.writestr(name, content)
    return out.getvalue()


def in_list(change: Callable[[dict[str, Any]], None]) -> Callable[[dict[str, bytes]], None]:
    def changed(files: dict[str, bytes]) -> None:
        listing = json.loads(files["archive.json"])
        change(listing)
        files["archive.json"] = json.dumps(listing).encode()

    return changed
