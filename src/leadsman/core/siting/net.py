"""What hangs together with a node of a plan, tanks and sources on the way left aside."""

from leadsman.core.design import Design
from leadsman.core.design.layout import Layout


def joined_with(design: Design, layout: Layout, start: str) -> tuple[set[str], set[str]]:
    """Return the nodes and the ids of the open lines that hang together with a node; tanks and sources end them."""
    apart = (set(layout.vessels) | set(layout.sources)) - {start}
    nodes, lines = {start}, set[str]()
    grown = True
    while grown:
        grown = False
        for line in design.lines:
            if line.id not in lines and not line.shut and {line.from_, line.to} & (nodes - apart):
                lines.add(line.id)
                nodes |= {line.from_, line.to}
                grown = True
    return nodes, lines
