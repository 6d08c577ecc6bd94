"""What goes together and what never will, and the chains of adapters between ends."""

import itertools

import pytest

from leadsman.core.catalogue import fittings, float_valves, parts, pipes, vessels
from leadsman.core.catalogue.thread import End, end_of
from leadsman.core.parts.chain import Chain, chain_between
from leadsman.core.parts.mate import Mate, Misfit, mate, pipe_end, told


def end(words: str) -> End:
    """An end by its words, or that of a pipe by its id."""
    if words in pipes():
        return pipe_end(pipes()[words])
    found = end_of(words)
    assert found is not None
    return found


FIT = [
    ("npt-m 3/4 @20", "npt-f 3/4 @20", "tape or paste"),
    ("bspt-m 1 @25", "bspt-f 1 @25", "tape or paste"),
    ("bspt-m 3/4 @20", "bspp-f 3/4 @20", "tape or paste"),
    ("bspp-m 3/4 @20", "bspp-f 3/4 @20", "no tape"),
    ("nh-m 3/4 @14", "nh-f 3/4 @14", "washer"),
    ("s60-m 2 @50", "s60-f 2 @47", "gasket"),
    ("pe100-sdr17-32", "comp 32 @26", "ring"),
    ("hose-0.5", "barb 12.70 @9.5", "clamp"),
    ("tube-6x4", "push 6 @4", "O-ring"),
    ("pvc-sch40-1", "solvent 33.40 @26.6", "cement"),
]
NEVER = [
    ("npt-m 1/2 @15", "bspt-f 1/2 @15", "14 turns to the inch in both"),
    ("npt-m 3/4 @20", "bspp-f 3/4 @20", "start together"),
    ("bspt-m 3/4 @20", "npt-f 3/4 @20", "never seal"),
    ("npt-m 1 @25", "bspt-f 1 @25", "differ in pitch"),
    ("nh-m 3/4 @14", "npt-f 3/4 @20", "hose thread fits neither"),
    ("nh-f 3/4 @14", "bspp-m 3/4 @20", "hose thread fits neither"),
    ("bspp-m 3/4 @20", "bspt-f 3/4 @20", "does not seal in a tapered"),
    ("npt-m 3/4 @20", "npt-m 3/4 @20", "both are male"),
    ("npt-m 3/4 @20", "npt-f 1 @25", "does not go into"),
    ("pe100-sdr17-32", "comp 40 @32", "does not take"),
    ("pe100-sdr17-32", "pe100-sdr17-32", "a fitting takes a pipe"),
    ("pe100-sdr17-32", "npt-f 1 @25", "nothing in common"),
    ("pe-cid-1", "comp 32 @26", "does not take"),
]  # fmt: skip


@pytest.mark.parametrize(("first", "second", "seal"), FIT)
def test_what_goes_together_is_sealed_as_its_threads_ask(first: str, second: str, seal: str) -> None:
    for one, other in ((first, second), (second, first)):
        joined = mate(end(one), end(other))
        assert isinstance(joined, Mate)
        assert seal in joined.seal
        assert joined.why
        assert joined.tighten


@pytest.mark.parametrize(("first", "second", "why"), NEVER)
def test_what_starts_or_looks_alike_and_never_seals_is_refused_with_the_reason(
    first: str, second: str, why: str
) -> None:
    for one, other in ((first, second), (second, first)):
        joined = mate(end(one), end(other))
        assert isinstance(joined, Misfit)
        assert why in joined.why


CHAINS = [
    ("npt-m 3/4 @20", "npt-f 3/4 @20", []),
    ("pe100-sdr17-32", "npt-f 1 @25", ["compression-male-npt-32"]),
    ("pe100-sdr17-32", "npt-m 3/4 @20", ["compression-female-npt-32-0.75"]),
    ("pe100-sdr17-32", "pe100-sdr17-32", ["compression-coupling-32"]),
    ("pe100-sdr17-32", "pe100-sdr17-40", ["compression-reducer-40-32"]),
    ("npt-m 3/4 @20", "bspt-f 3/4 @20", ["bspt-npt-0.75"]),
    ("nh-m 3/4 @14", "npt-f 3/4 @20", ["hose-female-npt-0.75"]),
    ("pe-cid-1", "pe100-sdr17-32", ["insert-adapter-1", "compression-female-npt-32"]),
    ("pvc-sch40-0.75", "npt-f 3/4 @20", ["pvc-male-0.75"]),
    ("tube-6x4", "npt-f 1/2 @15", ["push-npt-6-0.5"]),
    ("push 6 @3", "npt-f 1/2 @15", ["push-npt-6-0.5"]),  # over a piece of the tube
    ("pvc-sch40-3", "npt-f 3/4 @20", None),
]  # fmt: skip


@pytest.mark.parametrize(("start", "goal", "adapters"), CHAINS)
def test_a_chain_has_the_fewest_adapters(start: str, goal: str, adapters: list[str] | None) -> None:
    chain = chain_between(end(start), end(goal))
    assert (None if chain is None else [link.product.product_id for link in chain.links]) == adapters


def sound(chain: Chain) -> bool:
    """Whether each end of a chain really goes into the next, looked at anew; over a piece of pipe at its ends alone."""
    pairs: list[tuple[End, End]] = []
    open_: End = chain.start
    for link in chain.links:
        pairs.append((open_, link.back))
        open_ = link.on
    pairs.append((open_, chain.goal))
    holds = [isinstance(mate(*pair), Mate) for pair in pairs]
    over_pipe = [(one.family, one.size) == (other.family, other.size) and one.thread is None for one, other in pairs]
    return all(holds[1:-1]) and all(held or stub for held, stub in zip(holds, over_pipe, strict=True))


def test_every_chain_in_the_catalogue_holds_and_is_as_short_both_ways() -> None:
    sold = [*fittings().values(), *parts().values(), *float_valves().values(), *vessels().values()]
    known = {(one.family, one.size): one for product in sold for one in product.end_list}
    ends = [*(pipe_end(one) for one in list(pipes().values())[::7]), *list(known.values())[::5]]
    found = 0
    for start, goal in itertools.combinations(ends, 2):
        there, back = chain_between(start, goal), chain_between(goal, start)
        assert (there is None) == (back is None), (told(start), told(goal))
        if there is not None and back is not None:
            found += 1
            assert sound(there), (told(start), told(goal))
            assert len(there.links) == len(back.links)
            assert there.narrowest_m <= min(start.bore_m, goal.bore_m)
    assert found > 200


def test_a_chain_that_may_not_be_narrow_goes_another_way_or_none() -> None:
    start, goal = end("s60-m 2 @50"), end("pe100-sdr17-32")
    narrow, wide = chain_between(start, goal), chain_between(start, goal, 0.022)
    assert narrow is not None
    assert wide is not None
    assert narrow.narrowest_m < 0.022 <= wide.narrowest_m
    assert len(wide.links) >= len(narrow.links)
    assert chain_between(start, goal, 0.030) is None
