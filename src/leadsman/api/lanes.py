"""Which requests calculate: they wait for each other, and nothing else waits for them."""

import re
from enum import Enum


class Lane(Enum):
    """What a request takes: nothing but the database, a moment of the processor, or as long as it may."""

    QUICK = "quick"
    EDIT = "edit"
    LONG = "long"


_EDIT = re.compile(r"/api/(analyses/(preview|course|fitted)|edits(/new)?)$")
_LONG = re.compile(
    r"/api/(analyses|archive|ground|weather|designs/[^/]+/(analysis|reach|relief|picture|calibration|trouble|levels|upkeep"
    r"|ledger|calendar\.ics|log/[^/]+/photo|revisions/\d+/glance))(/|$)"
)
_KEPT = re.compile(r"/api/designs/[^/]+/((relief|picture)(/image)?|log/[^/]+/photo)$")


def lane_of(method: str, path: str) -> Lane:
    """Return the lane of a request."""
    if _EDIT.match(path):
        return Lane.EDIT
    if _LONG.match(path) and not (method in ("GET", "HEAD") and _KEPT.match(path)):
        return Lane.LONG
    return Lane.QUICK
