"""Documents of other versions: an older one is brought to the present shape, a newer one is refused."""

from collections.abc import Callable, Mapping
from typing import Any

from pydantic_core import PydanticCustomError

Document = dict[str, Any]
Upgrade = Callable[[Document], Document]

VERSION = 1
# by the version that is brought to the next; version 1 is the first that was released
UPGRADES: Mapping[int, Upgrade] = {}


class NewerVersion(PydanticCustomError):
    """A document was written by a later Leadsman."""

    def __new__(cls, version: int) -> "NewerVersion":
        """Return the error of a document of a version."""
        return super().__new__(
            cls,
            "newer_version",
            "{allowed}",
            {"allowed": f"at most {VERSION}: version {version} needs a newer Leadsman"},
        )


def upgraded(document: Document) -> Document:
    """Return a document in the present version; one whose version is not a number stays as it is, for its checks.

    Raises:
        NewerVersion: it is of a later version.
    """
    version = document.get("version")
    if not isinstance(version, int) or isinstance(version, bool):
        return document
    if version > VERSION:
        raise NewerVersion(version)
    while version in UPGRADES:
        document = {**UPGRADES[version](document), "version": version + 1}
        version += 1
    return document
