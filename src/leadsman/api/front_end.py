"""Serving the built front end: hashed files for ever and packed, the page itself always fresh."""

import json
import mimetypes
import re
from pathlib import Path

from flask import Blueprint, Flask, Response, request, send_from_directory
from werkzeug.exceptions import NotFound

YEAR_S = 31_536_000
CONTENT_SECURITY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)
NOTICES = "third-party-notices.md"
PLAN = re.compile(r"designs/(?P<id>[0-9a-f-]{36})(?:/(?P<view>\w+))?/?")
WORKBENCH = "src/features/workbench/index.ts"
BESIDE = "src/features/workbench/Beside.tsx"  # stands beside all views but those that take the whole width
WIDE = ("options", "parts", "build", "log")
VIEWS = {
    "lines": "src/features/workbench/LinesView.tsx",
    "demand": "src/features/demand/index.ts",
    "supply": "src/features/supply/index.ts",
    "ground": "src/features/ground/index.ts",
    "parts": "src/features/catalogue/index.ts",
    "day": "src/features/day/index.ts",
    "options": "src/features/options/index.ts",
    "build": "src/features/build/index.ts",
    "log": "src/features/log/index.ts",
}


def serve_front_end(app: Flask, folder: Path, autosave_ms: int) -> None:
    """Serve a folder that Vite built; any address outside the API gets the page, with the settings that it needs."""
    pages = Blueprint("pages", __name__)

    @pages.get("/assets/<path:name>")
    def asset(name: str) -> Response:
        assets = folder / "assets"
        packed = request.accept_encodings["gzip"] > 0 and (assets / f"{name}.gz").is_file()
        response = send_from_directory(assets, f"{name}.gz" if packed else name, max_age=YEAR_S)
        if packed:
            response.headers["Content-Type"] = mimetypes.guess_type(name)[0] or "application/octet-stream"
            response.headers["Content-Encoding"] = "gzip"
        response.headers["Vary"] = "Accept-Encoding"
        response.cache_control.immutable = True
        return response

    @pages.get("/<any('sw.js', 'manifest.webmanifest', 'icon-192.png', 'icon-512.png'):name>")
    def installed(name: str) -> Response:
        """What makes the page open without a connection; looked at anew each time, so that it follows the server."""
        response = send_from_directory(folder, name, max_age=0)
        response.headers["Cache-Control"] = "no-cache"
        if name.endswith(".webmanifest"):
            response.mimetype = "application/manifest+json"
        return response

    @pages.get(f"/{NOTICES}")
    def notices() -> Response:
        return send_from_directory(folder, NOTICES, mimetype="text/plain")

    @pages.get("/", defaults={"_address": ""})
    @pages.get("/<path:_address>")
    def page(_address: str) -> Response:
        if _address.startswith("api/"):
            raise NotFound
        try:
            text = (folder / "index.html").read_text(encoding="utf-8")
        except FileNotFoundError:
            raise NotFound from None
        setting = f'<meta name="autosave-ms" content="{autosave_ms}" />'
        head = "".join([setting, *_fetched_ahead(folder, _address)])
        response = Response(text.replace("</head>", f"{head}</head>"), mimetype="text/html")
        response.headers["Cache-Control"] = "no-cache"
        response.headers["Content-Security-Policy"] = CONTENT_SECURITY
        return response

    app.register_blueprint(pages)


def _fetched_ahead(folder: Path, address: str) -> list[str]:
    """Return what the page of a plan has the browser fetch while its first scripts still run."""
    plan = PLAN.fullmatch(address)
    if not plan:
        return []
    chunks = json.loads((folder / ".vite" / "manifest.json").read_text(encoding="utf-8"))
    needed: list[str] = []
    waiting = [VIEWS.get(plan["view"], VIEWS["lines"]), WORKBENCH, *(() if plan["view"] in WIDE else (BESIDE,))]
    while waiting:
        name = waiting.pop()
        if name not in needed:
            needed.append(name)
            waiting += chunks[name].get("imports", [])
    scripts = [f"/{chunks[name]['file']}" for name in needed if name != "index.html"]
    answers = [f"/api/designs/{plan['id']}{of}" for of in ("", "/analysis")] + ["/api/catalogue"]
    return [
        *(f'<link rel="modulepreload" crossorigin href="{script}">' for script in scripts),
        *(f'<link rel="preload" as="fetch" crossorigin href="{asked}">' for asked in answers),
    ]
