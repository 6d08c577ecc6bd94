"""Who may ask: pages of this server, and programs; not the pages of others, in whatever browser they are open.

There are no accounts. A foreign page can reach a server on the same machine or network through its reader's browser: by
asking it directly, or by a name of its own that it lets point here. Both are refused.
"""

from ipaddress import ip_address
from urllib.parse import urlsplit

from flask import Flask, Response, request

from leadsman.api.errors import problem_answer
from leadsman.api.schemas import Problem

READ_ONLY = ("GET", "HEAD", "OPTIONS")
SAME_SITE = ("same-origin", "none")


def guard_doors(app: Flask, host_names: tuple[str, ...]) -> None:
    """Refuse requests under a name that is not the server's, and those that a foreign page makes.

    Args:
        host_names: names under which the server is reached, beside "localhost" and any address in figures.
    """
    known = {"localhost", *(name.lower() for name in host_names)}

    @app.before_request
    def own_name_only() -> Response | None:
        name = urlsplit(f"//{request.host}").hostname or ""
        if name not in known and not _is_address(name):
            told = f"This server is not called {name[:80]}. Names it goes by are set in HOST_NAMES."
            return problem_answer(421, Problem(code="unknown_host", message=told))
        return None

    @app.before_request
    def own_pages_only() -> Response | None:
        if request.method in READ_ONLY:
            return None
        origin = request.headers.get("Origin")
        foreign = origin is not None and urlsplit(origin).netloc != request.host
        if foreign or request.headers.get("Sec-Fetch-Site", "none") not in SAME_SITE:
            told = "Another page asked for this. Only Leadsman's own pages, and programs, may."
            return problem_answer(403, Problem(code="foreign_page", message=told))
        return None

    @app.after_request
    def told_to_browsers(response: Response) -> Response:
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "no-referrer"
        response.headers["Cross-Origin-Resource-Policy"] = "same-origin"
        response.headers["Cross-Origin-Opener-Policy"] = "same-origin"
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response


def _is_address(name: str) -> bool:
    """Whether a host is an address in figures: no name that somebody else can let point here."""
    try:
        ip_address(name)
    except ValueError:
        return False
    return True
