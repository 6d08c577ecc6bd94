"""Text patterns of the document, each with what it allows in words."""

ID_PATTERN = r"^[a-z0-9][a-z0-9._-]{0,63}$"
CLOCK_PATTERN = r"^([01]\d|2[0-3]):[0-5]\d$"
DATE_PATTERN = r"^\d{4}-\d{2}-\d{2}$"
ALLOWED = {
    ID_PATTERN: "small letters, digits and . _ -, beginning with a letter or digit, at most 64",
    DATE_PATTERN: "a date as 2026-03-18",
    CLOCK_PATTERN: "a time of day as 06:30",
}
