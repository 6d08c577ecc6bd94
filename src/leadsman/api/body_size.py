"""How large a request may be before it is worked on, by where it goes."""

import re

LARGEST_BODY_BYTES = 32_000_000  # a file with the plan that it is for
LARGEST_ARCHIVE_BYTES = 1_000_000_000  # with some thousands of photos
_ARCHIVE = re.compile(r"/api/archive/?$")


def largest_body(path: str) -> int:
    """Return how many bytes the server takes in for a path; what an application takes of them may be less."""
    return LARGEST_ARCHIVE_BYTES if _ARCHIVE.match(path) else LARGEST_BODY_BYTES
