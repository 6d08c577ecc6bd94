"""How large a file of somebody else's may be, and the door that all XML comes through."""

from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from leadsman.core.survey.survey_file import SurveyFile, refuse

LARGEST_FILE_BYTES = 24_000_000
MOST_POINTS = 200_000
MOST_ELEMENTS = 2_000_000
DEEPEST = 60


def read_xml(data: bytes) -> Element:
    """Return the root of an XML document without entities, external parts or absurd depth.

    Raises:
        DesignFaults: it is not well formed, declares entities or a DTD, or is too deep or too large.
    """
    try:
        root: Element = fromstring(data, forbid_dtd=True)
    except DefusedXmlException as error:
        raise refuse("", "hostile", type(error).__name__, "XML without a DTD, entities or external parts") from None
    except (ParseError, ValueError, LookupError) as error:
        raise refuse("", "not_xml", str(error)[:120], "well-formed XML") from None
    except RecursionError:
        raise refuse("", "too_deep", "elements nested too deep", f"at most {DEEPEST} levels") from None
    count, level = 0, [root]
    for _ in range(DEEPEST):
        count += len(level)
        level = [child for parent in level for child in parent]
        if not level:
            return root
        if count + len(level) > MOST_ELEMENTS:
            raise refuse("", "too_large", "too many elements", f"at most {MOST_ELEMENTS:,}")
    raise refuse("", "too_deep", f"elements nested more than {DEEPEST} deep", f"at most {DEEPEST} levels")


def local_name(element: Element) -> str:
    """Return an element's name without its namespace."""
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else ""


def number(text: str | None, where: str) -> float:
    """Return a finite number of a file's text.

    Raises:
        DesignFaults: it is none.
    """
    try:
        value = float((text or "").strip())
    except ValueError:
        raise refuse(where, "no_number", repr(text)[:60], "a number") from None
    if not abs(value) < 1e12:
        raise refuse(where, "no_number", repr(text)[:60], "a finite number")
    return value


def require_few(count: int) -> None:
    """Raise DesignFaults where a file has more points than anybody lays a water line with."""
    if count > MOST_POINTS:
        raise refuse("", "too_many", f"{count:,} points", f"at most {MOST_POINTS:,}")


def with_few(survey: SurveyFile) -> SurveyFile:
    """Return a file that has no more points than anybody lays a water line with.

    Raises:
        DesignFaults: it has more.
    """
    require_few(len(survey.coordinates))
    return survey
