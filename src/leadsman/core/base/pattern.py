"""Text patterns of the document, each with what it allows in words."""

ID_PATTERN = r"^[a-z0-9][a-z0-9._-]{0,63}$"
CLOCK_PATTERN = r"^([01]\d|2[0-3]):[0-5]\d$"
DATE_PATTERN = r"^\d{4}-\d{2}-\d{2}$"
TEXT_PATTERN = r"^[^\x00-\x1f\x7f]*$"
NOTE_PATTERN = r"^[^\x00-\x08\x0b\x0c\x0e-\x1f\x7f]*$"
ALLOWED = {
    ID_PATTERN: "small letters, digits and . _ -, beginning with a letter or digit, at most 64",
    DATE_PATTERN: "a date as 2026-03-18",
    TEXT_PATTERN: "text on one line, without control characters",
    NOTE_PATTERN: "text without control characters",
    CLOCK_PATTERN: "a time of day as 06:30",
}
