"""What stands in the job sheet: words in the reader's units, drawings in greys."""

import io
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import groupby
from typing import Any, Literal

import segno

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.unit_system import System, quantity_text, worded
from leadsman.core.base.units import LITRE_M3, kpa_from_pa, lpm_from_m3s, pa_from_head_m
from leadsman.core.base.wording import Quantity, Unit
from leadsman.core.design import Design, Line, label, labels
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import verdict
from leadsman.core.parts.laid_pipe import pipes_of
from leadsman.core.report.base import spoken
from leadsman.core.report.parts import ChainReport, ConnectionReport, PartRowReport, PartsReport, parts_report
from leadsman.core.report.route import route_report
from leadsman.core.report.setting import SetFloatReport, SettingReport, settings_report
from leadsman.formats.drawing.canvas import GREYS, length_text
from leadsman.formats.drawing.joint import FULL_PX, joint_drawing, joint_width_px
from leadsman.formats.drawing.laying import laying_drawing
from leadsman.formats.drawing.plan import plan_drawing
from leadsman.formats.drawing.profile import profile_drawing
from leadsman.formats.drawing.setting import setting_drawing

Paper = Literal["a4", "us-letter"]
FONT = "Libertinus Serif"
PLAN_PX: Mapping[Paper, tuple[float, float]] = {"a4": (700.0, 470.0), "us-letter": (700.0, 400.0)}
PROFILE_PX, STRIP_PX = (700.0, 215.0), 700.0
MOST_PROFILES = 24
Pail = tuple[float, str]
PAILS: Mapping[System, tuple[Pail, Pail]] = {  # litres; the small one for a thin flow
    "metric": ((20.0, "20 L"), (1.0, "1 L")), "us": ((18.92705892, "5 gal"), (0.946352946, "1 qt")),
    "imperial": ((18.18436, "4 imp gal"), (0.56826125, "1 imp pint")),
}  # fmt: skip
LONG_S = 600.0  # over which nobody stands by a pail
FIRST_WATER = (
    "All ends open, vents too. Fill slowly from the top, so that the air can leave.",
    "Close from the top down, each end when it runs clear and without spitting; vents last.",
    "Flush before filters and floats go on: the first water is dirty.",
    "A siphon or a foot valve is filled through its crest until no bubble comes. Never suck with the mouth.",
    "Lift each float by hand: it shuts; let go: it runs at once; three times. A hose looped over a high point and down "
    "again siphons, and proves nothing.",
    "Fill a pail at each outlet and take the seconds, twice; more than a tenth apart: again. Write them down beside "
    "the planned ones.",
    "All ends shut, a night under full pressure; then look at every joint. Watch joints for some days before "
    "backfilling.",
)  # common practice, no source
CAUTIONS = (
    "Animals die within days without water: keep two independent days in hand, and look daily.",
    "A full tank can crush. Stands and platforms need someone competent, level ground and stops against tipping.",
    "Call the utility locating service before digging. Nobody stands in a trench that could fall in.",
    "Deep troughs, tanks and ponds drown children and small animals: covers, ramps.",
    "Mind electric fences near wet hands and metal troughs.",
    "A line tied to a drinking-water supply needs a backflow preventer or an air gap under the local plumbing code, "
    "and often a licensed plumber.",
    "Roof water and pond water are not drinking water for people. Only food-grade containers.",
    "A hole saw can catch and wrench the drill: both hands, eye protection. Do not drill a tank that held chemicals.",
    "Structural, electrical, well and plumbing work defers to local codes and licensed practice.",
)
SEVERITY = {"stop": "does not work", "fix": "works badly", "watch": "watch"}


@dataclass(frozen=True, kw_only=True)
class SheetAsked:
    """How a job sheet is wanted: units, paper, and what it is of: revision, whether all is saved, day, its address."""

    system: System = "metric"
    paper: Paper = "a4"
    revision: int | None = None
    is_saved: bool = True
    date: str
    link: str | None = None


def sheet_content(analysis: Analysis, asked: SheetAsked) -> dict[str, Any]:
    """Return what the template lays out."""
    design, system = analysis.document, asked.system
    report = parts_report(design)
    names = labels(design)
    findings = judge(analysis)
    told = verdict(analysis, findings)
    revision = "not saved" if asked.revision is None else f"revision {asked.revision}"
    return {
        "paper": asked.paper,
        "site": design.site.name,
        "plan": design.name,
        "revision": revision if asked.is_saved or asked.revision is None else f"{revision} with unsaved changes",
        "date": asked.date,
        "link": asked.link,
        "qr": _qr(asked.link) if asked.link else None,
        "case": analysis.scenario.name or analysis.scenario.id,
        "sentence": worded(told.sentence, system),
        "numbers": [
            {
                "title": worded(number.title, system),
                "value": number.instead if number.value is None else quantity_text(number.value, system),
                "wanted": worded(number.wanted, system),
            }
            for number in told.numbers
        ],
        "findings": [
            {
                "severity": SEVERITY[finding.severity],
                "headline": worded(finding.headline, system),
                "why": worded(finding.why, system),
            }
            for finding in findings
        ],
        "plan_drawing": plan_drawing(design, *PLAN_PX[asked.paper], system, GREYS, FONT),
        "lines": _lines(analysis, system),
        "profiles": _profiles(analysis, names, system),
        "shops": _shops(report, names, system),
        "price": f"{report.price:,.2f} {report.currency}",
        "unpriced": report.unpriced,
        "weight": _text(report.weight_kg, "kg", system),
        "unweighed": report.unweighed,
        "joints": _joints(report, system),
        "holes": _holes(report, names, system),
        "hole_practice": report.hole_practice,
        **_settings(analysis, names, system),
        "laying": _laying(design, report, names, system),
        "posts": None if design.site.post_m is None else _text(design.site.post_m, "m", system, 1),
        "work": [
            {
                "told": spoken(step.told, system), "counted": spoken(step.counted, system),
                "one": _hours(step.one_h), "two": _hours(step.two_h), "later": step.is_later,
            }
            for step in report.work
        ],
        "work_sum": [
            _hours(sum(step.one_h for step in report.work if not step.is_later)),
            _hours(sum(step.two_h for step in report.work if not step.is_later)),
        ],
        "first_water": FIRST_WATER,
        "outlets": _outlets(analysis, system),
        "cautions": CAUTIONS,
    }  # fmt: skip


def _text(value: float, unit: Unit, system: System, digits: int | None = None) -> str:
    return quantity_text(Quantity(value=value, unit=unit, digits=digits), system)


def _hours(hours: float) -> str:
    return "wait" if hours == 0.0 else f"{hours:.1f}"


def _qr(link: str) -> str:
    """Return an address as a QR code, in SVG."""
    written = io.BytesIO()
    segno.make(link, error="m", micro=False).save(written, kind="svg", scale=4, border=2, xmldecl=False)
    return written.getvalue().decode()


def _lines(analysis: Analysis, system: System) -> list[dict[str, str]]:
    """Return the lines as the plan numbers them."""
    found = []
    for number, line in enumerate(analysis.document.lines, start=1):
        bore_m = analysis.model.reaches_of_line(line.id)[0].bore_m
        flow = analysis.state.flow.line_flow_m3s(line.id)
        found.append(
            {
                "number": str(number),
                "name": label(line),
                "pipe": ", ".join(dict.fromkeys(_pipe_names(analysis.document, line)))
                or f"bore {_text(bore_m * 1e3, 'mm', system)}",
                "length": _text(line.pipe_length_m, "m", system, 0),
                "flow": _text(lpm_from_m3s(abs(flow)), "L/min", system),
            }
        )
    return found


def _pipe_names(design: Design, line: Line) -> list[str]:
    return [product.name for product, _ in pipes_of(design, line)]


def _profiles(analysis: Analysis, names: dict[str, str], system: System) -> list[dict[str, str]]:
    """Return the profile to each outlet that has one, all drawing together."""
    found = []
    for outlet_id in list(analysis.state.outlets)[:MOST_PROFILES]:
        report = route_report(analysis, outlet_id)
        if len(report.section) < 2:
            continue
        title = f"{names.get(report.vessel or '', 'source')} to {names[outlet_id]}"
        run = report.together
        drawing = profile_drawing(report.section, run.grade, PROFILE_PX, system, GREYS, title, FONT)
        said = f"{_text(report.length_m, 'm', system, 0)} of pipe, {_text(run.flow_lpm, 'L/min', system)}"
        found.append({"title": title, "drawing": drawing, "said": said})
    return found


def _shops(report: PartsReport, names: dict[str, str], system: System) -> list[dict[str, Any]]:
    rows = sorted(report.rows, key=lambda row: list(dict.fromkeys(one.shop for one in report.rows)).index(row.shop))
    return [
        {"shop": shop[:1].upper() + shop[1:], "rows": [_row(row, names, report.currency, system) for row in group]}
        for shop, group in groupby(rows, key=lambda row: row.shop)
    ]


def _row(row: PartRowReport, names: dict[str, str], currency: str, system: System) -> dict[str, str]:
    details = [spoken(one, system) for one in row.details]
    if row.assumed:
        few = "; ".join(row.assumed[:2])
        details.append(f"assumed: {few}" + (f"; and {len(row.assumed) - 2} more" if len(row.assumed) > 2 else ""))
    return {
        "name": row.name,
        "details": "; ".join(details),
        "where": ", ".join(names.get(part, part) for part in row.where),
        "needed": _count(row.count, row, system),
        "buy": "–" if row.to_buy == 0.0 else _count(row.to_buy, row, system),
        "total": "" if row.total is None or row.to_buy == 0.0 else f"{row.total:,.2f} {currency}",
    }


def _count(count: float, row: PartRowReport, system: System) -> str:
    if row.unit == "m":
        return _text(count, "m", system, 1 if count % 1 else 0)
    if row.unit == "roll" and row.roll_m:
        return f"{count:g} × {_text(row.roll_m, 'm', system, 0)}"
    return f"{count:g}"


def _joints(report: PartsReport, system: System) -> list[dict[str, Any]]:
    """Return each kind of joint once, with where it is made."""
    alike: dict[tuple[Any, ...], list[ConnectionReport]] = {}
    for one in report.connections:
        links = tuple(link.product_id for link in one.chain.links) if one.chain else ()
        seals = tuple((mate.seal, mate.tighten) for mate in one.chain.mates) if one.chain else ()
        own = tuple(one.own)
        alike.setdefault((one.start, one.goal, links, seals, own, one.trouble), []).append(one)
    found = []
    for group in alike.values():
        first, chain = group[0], group[0].chain
        pairs = Counter(f"{one.first} → {one.second}" for one in group)
        where = [pair + (f" ({times} times)" if times > 1 else "") for pair, times in pairs.items()]
        found.append(
            {
                "title": f"{first.start[:1].upper()}{first.start[1:]} to {first.goal or 'a pipe not chosen yet'}",
                "where": "; ".join(where),
                "count": len(group),
                "drawing": joint_drawing(chain, system, GREYS, FONT) if chain and chain.links else None,
                "pieces": [link.name for link in chain.links] if chain else [],
                "share": min(1.0, joint_width_px(chain) / FULL_PX) if chain else 0.0,
                "seals": _seals(chain),
                "why": list(dict.fromkeys(mate.why for mate in chain.mates)) if chain else [],
                "trouble": first.trouble,
            }
        )  # fmt: skip
    return sorted(found, key=lambda joint: (not joint["trouble"], -joint["count"]))


def _seals(chain: ChainReport | None) -> list[str]:
    """Return what seals each place where two pieces meet, alike ones together, by their letters."""
    letters: dict[str, list[str]] = {}
    for number, mate in enumerate(chain.mates if chain else []):
        letters.setdefault(f"{mate.seal}; {mate.tighten}", []).append(chr(ord("a") + number % 26))
    return [f"{', '.join(found)}: {seal}" for seal, found in letters.items()]


def _holes(report: PartsReport, names: dict[str, str], system: System) -> list[dict[str, str]]:
    def mm(value: float | None) -> str:
        return "" if value is None else _text(value, "mm", system, 1 if system == "metric" else 2)

    return [
        {
            "vessel": names[hole.vessel], "what": hole.what,
            "at": "" if hole.at_m is None else length_text(hole.at_m, system),
            "stem": mm(hole.across_mm), "bit": mm(hole.bit_mm),
            "troubles": "; ".join(spoken(one, system) for one in hole.troubles),
        }
        for hole in report.holes
    ]  # fmt: skip


def _settings(analysis: Analysis, names: dict[str, str], system: System) -> dict[str, Any]:
    report = settings_report(analysis)
    return {
        "settings": [_setting(setting, names, system) for setting in report.settings],
        "setting_how": report.how,
    }


def _setting(setting: SettingReport, names: dict[str, str], system: System) -> dict[str, Any]:
    return {
        "title": names[setting.vessel],
        "drawing": setting_drawing(setting, names[setting.vessel], system, GREYS, FONT),
        "floats": [{"name": names[one.outlet], "said": _float(one, system)} for one in setting.floats],
        "notes": [spoken(note, system) for note in setting.notes],
    }


def _float(one: SetFloatReport, system: System) -> list[str]:
    drawn = one.what if one.is_known else f"drawn as {one.what}, which passes about as much"
    closes, opens = length_text(one.closes_at_m, system), length_text(one.opens_at_m, system)
    said = [f"Closes at {closes}, wide open again at {opens}; {drawn}."]
    rooms = [f"{length_text(room.room_mm / 1e3, system)} to {room.to}" for room in one.rooms]
    if rooms:
        said.append(f"Room: {'; '.join(rooms)}.")
    return [*said, *(spoken(line, system) for line in one.adjust)]


def _laying(design: Design, report: PartsReport, names: dict[str, str], system: System) -> list[dict[str, Any]]:
    found = []
    for sheet in report.laying:
        rows = [
            {
                "at": _text(stop.at_m, "m", system, 1),
                "spaces": "" if stop.spaces is None
                else f"{stop.spaces}" + (f" and {_text(stop.beyond_m, 'm', system, 1)}" if stop.beyond_m else ""),
                "paces": f"{stop.paces:.0f}",
                "told": spoken(stop.told, system),
            }
            for stop in sheet.stops
        ]  # fmt: skip
        drawing = laying_drawing(sheet, design.site.post_m, STRIP_PX, system, GREYS, FONT)
        found.append({"title": names[sheet.line], "drawing": drawing, "rows": rows})
    return found


def _outlets(analysis: Analysis, system: System) -> list[dict[str, str]]:
    """Return what each outlet should show at first water: planned flow, seconds to fill a pail, gauge when shut."""
    density, found = analysis.state.water.density_kgm3, []
    for outlet in analysis.fed_outlets:
        alone = analysis.flows_alone_m3s.get(outlet.id, 0.0)
        answer = analysis.answer(outlet)
        route = analysis.routes[outlet.id]
        holds_m3 = sum(_holds_m3(analysis, leg.line) for leg in route.legs) if route else 0.0
        static_m = answer.static_head_m
        over_m = None if static_m is None else static_m - analysis.model.layout.outlet_height_m(outlet)
        shut_kpa = None if over_m is None else max(0.0, kpa_from_pa(pa_from_head_m(over_m, density)))
        found.append(
            {
                "name": label(outlet),
                "alone": _text(lpm_from_m3s(alone), "L/min", system),
                "together": _text(lpm_from_m3s(answer.judged_flow_m3s), "L/min", system),
                "seconds": _pail(alone, system) if alone > 0.0 else "–",
                "shut": "" if shut_kpa is None else _text(shut_kpa, "kPa", system, 0),
                "holds": _text(holds_m3 / LITRE_M3, "L", system),
                "within": f"{holds_m3 / alone / 60.0:.0f}" if alone > 0.0 else "–",
            }
        )  # fmt: skip
    return found


def _pail(flow_m3s: float, system: System) -> str:
    """Return the seconds that a flow takes to fill a pail, a small one where it is thin."""
    large, small = PAILS[system]
    litres, name = large if large[0] * LITRE_M3 / flow_m3s <= LONG_S else small
    return f"{litres * LITRE_M3 / flow_m3s:.0f} for {name}"


def _holds_m3(analysis: Analysis, line: Line) -> float:
    return sum(pipe.volume_m3 for pipe in analysis.model.reaches_of_line(line.id))
