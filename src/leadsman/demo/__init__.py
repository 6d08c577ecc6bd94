"""The invented hill farm Tamsel Ridge: demonstration data, all of it made up."""

from importlib.resources import files

from leadsman.core.design import Design
from leadsman.core.design_file import read_design_text


def tamsel_ridge() -> Design:
    """Return the demonstration design: the ridge's first line, chambers to Low trough."""
    return read_design_text((files("leadsman.demo") / "tamsel-ridge.json").read_bytes())
