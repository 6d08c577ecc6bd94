"""The design of a request's body after the edits that come with it; faults are told where they stand in the body."""

from dataclasses import replace

from leadsman.api.schemas import AskEdit, AskPreview
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design.edit import Edited, edited


def edited_body(body: AskEdit | AskPreview) -> Edited:
    """Return the design of a body after its edits.

    Raises:
        DesignFaults: an edit is refused, or what comes of it is no design.
    """
    try:
        return edited(body.document, body.edits)
    except DesignFaults as error:
        raise DesignFaults([_in_body(fault) for fault in error.faults]) from None


def _in_body(fault: Fault) -> Fault:
    return fault if fault.path.startswith("/edit/") else replace(fault, path=f"/document{fault.path}")
