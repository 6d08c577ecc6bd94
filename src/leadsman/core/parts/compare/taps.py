"""Taps at an outlet: how fast each fills a bucket there, what blocks it, what room it needs to be screwed in."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3, MILLIMETRE_M
from leadsman.core.base.wording import Quantity, say
from leadsman.core.catalogue import PartProduct, parts
from leadsman.core.design import Line, OutletBase, label
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.price_book import price_of
from leadsman.core.parts.compare.comparison import ComparedRow, Comparison, flow, last_line, money
from leadsman.core.steady.solve import solve_with

NARROW_MM, WIDE_MM = 9.0, 18.0  # bores between which grit and scale block a tap now and then; ours, no source
SHELL_MM, PER_BORE = 40.0, 2.2  # about how long a tap is, by its bore; ours, rough: measure yours


def taps(analysis: Analysis, outlet: OutletBase, bucket_l: float) -> Comparison | None:
    """Return taps in place of what stands at an outlet, each filling a bucket by itself; None where no pipe ends there.

    Source: the plan's own network with the outlet as an open end behind each tap.
    """
    line = last_line(analysis, outlet)
    if line is None:
        return None
    rows = []
    for product in parts().values():
        if product.kind not in ("isolating_valve", "tap_point"):
            continue
        analysis.check_cancelled()
        bore_mm = _bore_mm(product)
        alone = _flow_m3s(analysis, outlet, line, product, bore_mm)
        filled = say("{}", Quantity(value=bucket_l * LITRE_M3 / alone, unit="s")) if alone > 0.0 else say("never")
        rows.append((
            alone,
            ComparedRow(
                name=product.name,
                cells=[
                    say("{}", Quantity(value=bore_mm, unit="mm", digits=1)), say("{}", flow(alone)), filled,
                    say(_blocks(bore_mm)),
                    say("{}", Quantity(value=SHELL_MM + PER_BORE * bore_mm, unit="mm", digits=0)),
                    money(analysis.document, price_of(analysis.document, product), own=True),
                ],
                is_now=any(part.product == product.product_id for part in line.inline),
            ),
        ))  # fmt: skip
    bucket = Quantity(value=bucket_l, unit="L", digits=1 if bucket_l % 1 else 0)
    return Comparison(
        key="taps",
        title=f"Taps at {label(outlet)}",
        columns=["Bore", "Flow by itself", "Fills the bucket in", "Blocks", "Room to swing", "Price"],
        rows=[row for _, row in sorted(rows, key=lambda pair: -pair[0])],
        notes=[
            say("A bucket of {}, the tap fully open in place of what stands there, nothing else running.", bucket),
            say(
                "Blocking by the bore (our own bounds); room to swing an angled tap while it is screwed in is "
                "about its own length, guessed from its bore: measure yours (common practice, no source)."
            ),
        ],
    )


def _bore_mm(product: PartProduct) -> float:
    ends = [end.bore_m / MILLIMETRE_M for end in product.end_list]
    return min([*([product.bore_mm] if product.bore_mm else []), *ends], default=15.0)


def _flow_m3s(analysis: Analysis, outlet: OutletBase, last: Line, product: PartProduct, bore_mm: float) -> float:
    """Return what a tap gives into a bucket [m3/s] where an outlet stands, all else shut."""
    document = write_design(analysis.document)
    told = next(each for each in document["outlets"] if each["id"] == outlet.id)
    kept = {key: told[key] for key in ("id", "name", "place", "height_m") if key in told}
    document["outlets"] = [
        {**kept, "kind": "open_end", "bore_mm": bore_mm} if each is told else each for each in document["outlets"]
    ]
    line = next(each for each in document["lines"] if each["id"] == last.id)
    bore_m = analysis.model.reaches_of_line(last.id)[-1].bore_m
    k = product.line_k(bore_m)
    taken = {"kv_m3h": product.kv_m3h} if product.kv_m3h is not None else {"k": k} if k is not None else {}
    line["inline"] = [*(line.get("inline") or []), {"kind": "isolating_valve", "at_m": last.pipe_length_m, **taken}]
    for key in ("herds", "paddocks", "calendar", "crops", "timers", "requirements", "events"):
        document.pop(key, None)  # they may ask for a float there, and do not matter for one tap
    after = Analysis(read_design(document), together_only=True, check_cancelled=analysis.check_cancelled)
    states, _ = solve_with(after.model, {outlet.id: after.standing.with_only(outlet.id)}, [])
    return states[outlet.id].outlets[outlet.id].judged_flow_m3s


def _blocks(bore_mm: float) -> str:
    if bore_mm < NARROW_MM:
        return "easily: a filter before it"
    return "now and then" if bore_mm < WIDE_MM else "hardly ever"
