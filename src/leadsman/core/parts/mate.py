"""Whether two ends go together: what seals them and why, how tight, or why they never will."""

from dataclasses import dataclass

from leadsman.core.catalogue import PipeProduct
from leadsman.core.catalogue.thread import End, joint, threads

PIPE_THREADS = ("npt", "bspt", "bspp")
NAMES = {
    "npt": "tapered pipe thread", "bspt": "tapered BSP thread", "bspp": "parallel BSP thread",
    "nh": "hose thread", "s60": "coarse tote thread", "barb": "barb", "comp": "compression end",
    "push": "push-fit end", "solvent": "solvent-weld socket", "open": "open end",
}  # fmt: skip
PIPE_NAMES = {
    "barb": "pipe by its bore", "comp": "pipe by its outside", "push": "tube", "solvent": "PVC pipe",
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Mate:
    """A joint that holds: what seals it, why that does, and how tight it is made. All common practice, no source."""

    seal: str
    why: str
    tighten: str


@dataclass(frozen=True, kw_only=True)
class Misfit:
    """Two ends that do not go together, and why."""

    why: str


class PipeEnd(End):
    """The end of a pipe or hose: a fitting takes it; two pipes do not go together by themselves, nor two fittings."""


TAPERED = Mate(
    seal="tape or paste on the male thread",
    why="a tapered thread wedges and seals on its flanks; the tape fills what is left",
    tighten="hand tight, then a turn to a turn and a half; plastic no more than half a turn",
)
WASHER = Mate(
    seal="washer or O-ring against the face, no tape",
    why="a parallel thread only pulls the faces together; tape there holds them apart and hides a leak",
    tighten="hand tight, then a quarter turn",
)
HOSE = Mate(
    seal="flat washer in the female end, no tape",
    why="hose thread is loose and parallel: the washer does all the sealing",
    tighten="hand tight",
)
TOTE = Mate(
    seal="gasket in the cap, no tape",
    why="the coarse round thread seals on its gasket; which one a tote has differs by country: measure across it",
    tighten="hand tight, then a quarter turn",
)
CLAMP = Mate(
    seal="clamp over the barb; two where it stands under pressure day and night",
    why="the clamp presses the wall onto the barb; warm the pipe, no oil where drinking water passes",
    tighten="until the wall just begins to bulge beside the clamp",
)
COMPRESSION = Mate(
    seal="the fitting's own ring and O-ring, no tape",
    why="the nut presses the ring onto the pipe: cut it square, chamfer it, push it past the ring",
    tighten="hand tight, then half a turn with a wrench",
)
PUSHED = Mate(
    seal="the fitting's own O-ring",
    why="deburr the pipe and mark its depth: it must reach the stop",
    tighten="pushed to the mark; pull it back to see that it holds",
)
WELDED = Mate(
    seal="primer and solvent cement",
    why="the cement melts both walls into one: nothing can be taken apart, so put a union beside what must come off",
    tighten="a quarter turn as it goes in, held half a minute; a day before water",
)
STUB = Mate(
    seal="a short piece of the pipe that both take, each end as that fitting asks",
    why="two fittings that take the same pipe go together over a piece of it",
    tighten="as each fitting asks",
)
THROUGH_WALL = Mate(
    seal="gasket on the water side, washer and nut outside, no tape between",
    why="the gasket is pressed onto a flat spot of the wall",
    tighten="hand tight, then a quarter to half a turn: more splits plastic",
)
TAKEN = {"barb": CLAMP, "comp": COMPRESSION, "push": PUSHED, "solvent": WELDED}


def pipe_end(product: PipeProduct) -> PipeEnd:
    """Return the end of a pipe, as what takes it is called: by its outer diameter, or by its bore.

    >>> from leadsman.core.catalogue import pipes
    >>> pipe_end(pipes()["pe100-sdr17-32"]).family, pipe_end(pipes()["pe100-sdr17-32"]).size
    ('comp', '32')
    """
    family = {"by outside": "comp", "by bore": "barb", "hose": "barb", "solvent": "solvent", "push-fit": "push"}
    kind = family[product.end]
    across = product.bore_m if kind == "barb" else product.outer_m
    size = f"{1e3 * across:.2f}" if kind in ("barb", "solvent") else f"{1e3 * across:g}"
    return PipeEnd(family=kind, size=size, bore_m=product.bore_m)


def told(end: End) -> str:
    """Return an end in words, as "3/4 in male tapered pipe thread"."""
    if isinstance(end, PipeEnd):
        return f"{end.size} mm {PIPE_NAMES[end.family]}"
    if end.thread is None:
        return f"{end.size} mm {NAMES[end.family]}"
    side = "male" if end.family.endswith("-m") else "female"
    return f"{end.size} in {side} {NAMES[end.thread]}"


def mate(end: End, other: End) -> Mate | Misfit:
    """Return how two ends go together, or why they do not."""
    if end.thread is None and other.thread is None:
        return _pushed_together(end, other)
    if end.thread is None or other.thread is None:
        return Misfit(why=f"{told(end)} and {told(other)} have nothing in common")
    if joint(end, other) is not None:
        return _of_thread(end, other)
    return Misfit(why=_why_threads_differ(end, other))


def _pushed_together(end: End, other: End) -> Mate | Misfit:
    if isinstance(end, PipeEnd) is isinstance(other, PipeEnd):
        return Misfit(why="a fitting takes a pipe, and not another fitting of its kind")
    if end.family == other.family and end.family in TAKEN and end.size == other.size:
        return TAKEN[end.family]
    return Misfit(why=f"{told(end)} does not take {told(other)}")


def _of_thread(end: End, other: End) -> Mate:
    outer = end if end.family.endswith("-m") else other
    return {"nh": HOSE, "s60": TOTE, "bspp": WASHER}.get(outer.thread or "", TAPERED)


def _why_threads_differ(end: End, other: End) -> str:
    if end.family[-1] == other.family[-1]:
        return f"both are {'male' if end.family.endswith('-m') else 'female'}"
    ours, theirs = end.thread or "", other.thread or ""
    if "nh" in (ours, theirs) and ours != theirs:
        return "hose thread fits neither pipe thread: its pitch and width are its own"
    if end.size != other.size:
        return f"{end.size} in does not go into {other.size} in"
    if {ours, theirs} <= set(PIPE_THREADS) and "npt" in (ours, theirs) and ours != theirs:
        pitch = {
            thread.family: thread.per_inch for thread in threads().values() if thread.size == end.size
        }  # turns to the inch
        if pitch.get(ours) == pitch.get(theirs):
            return (
                f"they start together, {pitch[ours]:g} turns to the inch in both, and never seal: the flanks stand at "
                "60° in one and at 55° in the other"
            )
        return "the two standards of pipe thread differ in pitch: they bind after a turn or two"
    if (ours, theirs) in (("bspp", "bspt"), ("bspt", "bspp")):
        return "a parallel male thread does not seal in a tapered female one"
    return f"{told(end)} does not go into {told(other)}"
