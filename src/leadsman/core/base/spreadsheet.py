"""Cells of tables that spreadsheets open: text stays text, whatever it begins with."""

FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r")


def text_cell(text: str) -> str:
    """Return text that no spreadsheet takes for a formula: a number, or with an apostrophe before it."""
    return f"'{text}" if text.startswith(FORMULA_STARTS) and not _is_number(text) else text


def text_of_cell(cell: str) -> str:
    """Return the text of a cell that `text_cell` wrote."""
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(FORMULA_STARTS) else cell


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return text.isascii()
