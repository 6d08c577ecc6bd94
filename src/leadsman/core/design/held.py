"""Documents held from one question to the next while a hand is on them: only what changed is sent, and checked."""

from collections import OrderedDict
from dataclasses import dataclass, field
from typing import Any

from pydantic import ConfigDict, with_config

from leadsman.core.design import Design
from leadsman.core.design.document import PARTS_KNOWN
from leadsman.core.design.reread import Rereader, with_other_parts

MOST_HELD = 8


@with_config(ConfigDict(extra="forbid"))
@dataclass(frozen=True)
class Change:
    """What changed in a document: values by their keys, keys that went, and parts of its lists by their numbers."""

    values: dict[str, Any] = field(default_factory=dict)
    gone: list[str] = field(default_factory=list)
    parts: dict[str, list[tuple[int, Any]]] = field(default_factory=dict)


@dataclass(frozen=True)
class _Held:
    step: int
    document: dict[str, Any]
    design: Design


class Holder:
    """Holds the last few documents by names that those who ask choose, each with the number of its change."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, _Held] = OrderedDict()
        self._reader = Rereader()

    def hold(self, name: str, document: Any) -> Design:
        """Return the design that parsed JSON holds, and hold it as step 0.

        Raises:
            ValidationError: as `Design.model_validate` does; what was held before stays.
        """
        return self._hold(name, 0, document, self._reader.read(document))

    def change(self, name: str, step: int, change: Change) -> Design | None:
        """Return what is held under a name with its next change; None where the step before is not held.

        Args:
            step: number of this change, from 1.
        Raises:
            ValidationError: as `Design.model_validate` does; what was held before stays.
        """
        held = self._held.get(name)
        document = held and held.step == step - 1 and _changed(held.document, change)
        if not held or not document:
            return None
        design = None
        if not change.values and not change.gone and change.parts.keys() <= set(PARTS_KNOWN):
            written = {
                kind: [(number, held.document[kind][number], part) for number, part in parts]
                for kind, parts in change.parts.items()
            }
            design = with_other_parts(held.design, written)
        return self._hold(name, step, document, design or self._reader.read(document))

    def _hold(self, name: str, step: int, document: dict[str, Any], design: Design) -> Design:
        held = {one: other for one, other in self._held.items() if one != name}
        self._held = OrderedDict([*list(held.items())[1 - MOST_HELD :], (name, _Held(step, document, design))])
        return design


def _changed(document: dict[str, Any], change: Change) -> dict[str, Any] | None:
    """Return a document with a change; None where a part that changed is not in it."""
    changed = {key: value for key, value in (document | change.values).items() if key not in change.gone}
    for kind, parts in change.parts.items():
        listed = changed.get(kind)
        if not isinstance(listed, list) or any(not 0 <= number < len(listed) for number, _ in parts):
            return None
        changed[kind] = listed.copy()
        for number, part in parts:
            changed[kind][number] = part
    return changed
