"""Cases: what is assumed of heat, day, sources and valves when a plan is judged; added, copied and deleted."""

from copy import deepcopy

from leadsman.core.design.edit.model import AddCase, CopyCase, DeleteCase
from leadsman.core.design.edit.parts import (
    Document,
    Outcome,
    Part,
    add,
    drop_empty,
    free_id,
    name_of,
    part,
    parts,
    refuse,
)
from leadsman.core.design.start import CASES, ORDINARY_DAY

NAME_LENGTH = 113  # leaves room for what a copy adds to it


def add_case(document: Document, edit: AddCase) -> Outcome:
    """Add a case of a kind and show it.

    Where the plan had none, the ordinary day that it was judged for stays beside it.
    """
    if not parts(document, "scenarios") and edit.case != ORDINARY_DAY:
        add_case(document, AddCase(kind="add_case", case=ORDINARY_DAY))
    if edit.case in CASES:
        new: Part = {"name": edit.case.capitalize(), **CASES[edit.case]}
    elif edit.case == "source lost":
        source = next(iter(parts(document, "inflows")), None)
        if source is None:
            refuse("case", "a plan without a source", "a source under Supply, for the case to lose")
        new = _like_shown(document) | {"name": f"{_short(source)} lost", "lost": [source["id"]]}
    else:
        outlet = next(iter(parts(document, "outlets")), None)
        if outlet is None:
            refuse("case", "a plan without an outlet", "a trough or a tap, whose valve sticks open")
        shown = _like_shown(document)
        shut = [name for name in shown.get("shut", []) if name != outlet["id"]]
        opened = [name for name in shown.get("open", []) if name != outlet["id"]]
        new = shown | {"name": f"{_short(outlet)} stuck open", "open": [*opened, outlet["id"]], "shut": shut}
    return _shown(document, new)


def copy_case(document: Document, edit: CopyCase) -> Outcome:
    """Copy a case and show the copy."""
    case = part(document, "scenarios", edit.case, "case")
    return _shown(document, deepcopy(case) | {"name": f"{_short(case)} (copy)"})


def delete_case(document: Document, edit: DeleteCase) -> Outcome:
    """Delete a case; where it was the one shown, its neighbour is shown."""
    case = part(document, "scenarios", edit.case, "case")
    before = parts(document, "scenarios")
    at = before.index(case)
    document["scenarios"] = [*before[:at], *before[at + 1 :]]
    if document.get("shown_for") == edit.case:
        document.pop("shown_for")
        if document["scenarios"]:
            document["shown_for"] = document["scenarios"][min(at, len(before) - 2)]["id"]
    drop_empty(document, "scenarios", before)
    return Outcome()


def _shown(document: Document, new: Part) -> Outcome:
    made = add(document, "scenarios", {**new, "id": free_id(document, "scenarios", "case")})
    document["shown_for"] = made
    return Outcome(made=[made])


def _like_shown(document: Document) -> Part:
    """Return a copy of the case that is shown, which is the first where none is named."""
    cases = parts(document, "scenarios")
    shown = next((case for case in cases if case["id"] == document.get("shown_for")), cases[0])
    return deepcopy(shown)


def _short(found: Part) -> str:
    return name_of(found)[:NAME_LENGTH]
