"""Pictures that lie under a plan: which kinds are taken."""

from leadsman.core.survey.survey_file import refuse
from leadsman.formats.limits import LARGEST_FILE_BYTES

KINDS = {b"\x89PNG\r\n\x1a\n": "image/png", b"\xff\xd8\xff": "image/jpeg", b"RIFF": "image/webp"}
SUFFIXES = {"image/png": "png", "image/jpeg": "jpg", "image/webp": "webp"}


def picture_mime(data: bytes, where: str = "/file") -> str:
    """Return the MIME type of a picture.

    Raises:
        DesignFaults: it is of no kind that is taken, or too large.
    """
    found = next((mime for start, mime in KINDS.items() if data.startswith(start)), None)
    if found == "image/webp" and data[8:12] != b"WEBP":  # sounds and films begin so too
        found = None
    if found is None or len(data) > LARGEST_FILE_BYTES:
        allowed = f"a PNG, JPEG or WebP of at most {LARGEST_FILE_BYTES:,} bytes"
        raise refuse(where, "not_a_picture", "something else", allowed)
    return found
