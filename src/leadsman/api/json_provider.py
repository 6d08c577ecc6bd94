"""JSON of request bodies: what Python's reader breaks on is a bad body, not a broken server."""

from typing import Any

from flask.json.provider import DefaultJSONProvider


class BodyProvider(DefaultJSONProvider):
    """Flask's own provider, with nesting too deep refused as a ValueError."""

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        try:
            return super().loads(s, **kwargs)
        except RecursionError:
            raise ValueError("nesting too deep") from None
