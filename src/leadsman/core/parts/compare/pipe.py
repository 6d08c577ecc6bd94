"""Pipe against pipe, each tried in the plan: hose now and pipe later, and what may stand in for what is on the list."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.choices import laid_in
from leadsman.core.base.wording import Wording, listed, say
from leadsman.core.catalogue import PipeProduct, pipes
from leadsman.core.design import Design, Line, OutletBase, label
from leadsman.core.design.price_book import price_of
from leadsman.core.parts.compare.comparison import ComparedRow, Comparison, flow, last_line, metres, money
from leadsman.core.parts.laid_pipe import pipes_of

YEARS = {"Hose": 5.0, "Rubber hose": 8.0, "Air hose": 4.0}  # in the sun, moved; typical, from memory
PIPE_YEARS = 30.0  # on the surface or buried; typical, from memory
NEAR = 0.45  # of a bore: hoses within so much of the pipe's are tried; ours
STAND_INS = 6  # at most for each pipe


def hose_or_pipe(analysis: Analysis, outlet: OutletBase) -> Comparison | None:
    """Return the last line to an outlet in hoses and pipes of about its bore, each solved; None without one."""
    line = last_line(analysis, outlet)
    if line is None:
        return None
    bore_m = analysis.model.reaches_of_line(line.id)[-1].bore_m
    now = {product.product_id for product, _ in pipes_of(analysis.document, line)}
    near = [product for product in pipes().values() if abs(product.bore_m - bore_m) <= NEAR * bore_m]
    hoses = [product for product in near if product.family in YEARS]
    laid = sorted(
        (p for p in near if p.family not in YEARS), key=lambda p: (abs(p.bore_m - bore_m), p.price_per_m or 1e9)
    )
    tried = [*hoses, *laid[:3], *(analysis.document.pipe(each) for each in now)]
    rows = []
    for product in {each.product_id: each for each in tried}.values():
        after = _with(analysis, line, product)
        years = YEARS.get(product.family, PIPE_YEARS)
        price = _price(analysis.document, product, line.pipe_length_m)
        yearly = None if price is None else price / years
        rows.append(ComparedRow(name=product.name, is_now=product.product_id in now, cells=[
            say("{}", flow(after.answer(outlet).judged_flow_m3s)), money(analysis.document, price, own=True),
            say("{}", f"{years:.0f}"), money(analysis.document, yearly, own=True),
            say("moves with the trough; kinks, sun and hooves age it" if product.family in YEARS else "stays; what "
                "is laid right lasts"),
        ]))  # fmt: skip
    return Comparison(
        key="hose-or-pipe",
        title=f"{label(line)}: hose now and pipe later",
        columns=[
            f"{label(outlet)} gets",
            f"Price of {line.pipe_length_m:.0f} m",
            "Years kept",
            "A year",
            "What it means",
        ],
        rows=rows,
        notes=[
            say(
                "{} of each, solved in the plan with all outlets running. Years and prices are typical, from memory, "
                "rough.",
                metres(line.pipe_length_m),
            )
        ],
    )


def substitutes(analysis: Analysis) -> Comparison:
    """Return, for each pipe on the list, pipes that may stand in for it, each solved in all its lines at once."""
    rows = [row for product, lines in _used(analysis.document) for row in _stand_ins(analysis, product, lines)]
    return Comparison(
        key="substitutes",
        title="When the shop does not have it: pipes that may stand in",
        columns=["Instead", "Metres", "More or less to pay", "Who gets less than wanted"],
        rows=rows,
        notes=[say(
            "Each is laid in all lines of the pipe that it stands in for, and solved with all outlets running. "
            "Fittings have to go with it: "
            "look at the joints again."
        )],
    )  # fmt: skip


def _used(design: Design) -> Iterator[tuple[PipeProduct, list[Line]]]:
    lines: dict[str, list[Line]] = {}
    for line in design.lines:
        for product, _ in pipes_of(design, line):
            lines.setdefault(product.product_id, []).append(line)
    for product_id, found in lines.items():
        yield design.pipe(product_id), [line for line in found if not line.runs]


def _stand_ins(analysis: Analysis, product: PipeProduct, lines: list[Line]) -> Iterator[ComparedRow]:
    """Yield the next sizes of a pipe's own kind, and its own size in other kinds, as far as they bear as much."""
    if not lines:
        return
    family = sorted((each for each in pipes().values() if each.series == product.series), key=lambda each: each.bore_m)
    own = [each.product_id for each in family]
    at = own.index(product.product_id) if product.product_id in own else -1
    tried = [family[number] for number in (at - 1, at + 1) if at >= 0 and 0 <= number < len(family)]
    bears = product.class_bar or 0.0
    tried += [
        each for each in pipes().values()
        if each.series != product.series and each.same_size(product) and (each.class_bar or 0.0) >= bears
    ]  # fmt: skip
    length_m = sum(line.pipe_length_m for line in lines)
    short_now = _short(analysis)
    for other in tried[:STAND_INS]:
        analysis.check_cancelled()
        design = analysis.document
        for line in lines:
            design = laid_in(design, line.id, other)
        after = Analysis(design, together_only=True, check_cancelled=analysis.check_cancelled)
        mine, theirs = (_price(analysis.document, each, length_m) for each in (product, other))
        more = None if mine is None or theirs is None else theirs - mine
        yield ComparedRow(name=product.name, cells=[
            say(other.name), say("{}", metres(length_m)),
            say("–") if more is None else say("{} {}", f"{more:+,.0f}", analysis.document.site.currency),
            _told(_short(after), short_now),
        ])  # fmt: skip


def _short(analysis: Analysis) -> dict[str, float]:
    """Return outlets that get less than is wanted of them, and what they get [m3/s]."""
    found = {}
    for outlet in analysis.fed_outlets:
        wanted, gets = analysis.wanted_m3s(outlet), analysis.answer(outlet).judged_flow_m3s
        if wanted is not None and gets < wanted * 0.995:
            found[label(outlet)] = gets
    return found


def _told(short: dict[str, float], before: dict[str, float]) -> Wording:
    if not short:
        return say("nobody")
    return listed([
        say("{} {}{}", name, flow(gets), " (as now)" if name in before and abs(gets - before[name]) < 1e-9 else "")
        for name, gets in short.items()
    ], last=", ")  # fmt: skip


def _with(analysis: Analysis, line: Line, product: PipeProduct) -> Analysis:
    analysis.check_cancelled()
    laid = laid_in(analysis.document, line.id, product)
    return Analysis(laid, together_only=True, check_cancelled=analysis.check_cancelled)


def _price(design: Design, product: PipeProduct, length_m: float) -> float | None:
    metre = price_of(design, product)
    return None if metre is None else metre * length_m
