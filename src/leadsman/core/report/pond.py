"""JSON of ponds: levels with the pump on and off, the places a float may be in, changes, top-up, treated mains."""

from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3, MILLIMETRE_M, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, listed, say
from leadsman.core.design import label
from leadsman.core.pond.levels import depth
from leadsman.core.pond.pond import FloatPlace, Pond, ponds, remover_lasts_d, short_meanwhile
from leadsman.core.report.base import Report, Words, words


class FloatPlaceReport(Report):
    """A place for the float: the level it is set to there, over the floor of its vessel; what goes for and against."""

    place: Literal["pond", "filter", "balance"]
    is_here: bool
    set_to_m: float | None
    says: list[Words]


class LoopReport(Report):
    """Levels over the floor of each with the pump on and off, and how far the chamber stands lower while it runs."""

    chamber: str
    fall_m: float
    pond_on_m: float
    chamber_on_m: float
    pond_off_m: float
    chamber_off_m: float


class ChangeReport(Report):
    """A change of water: litres, minutes out and in (null: unknown, never), when the next comes, who goes short."""

    volume_l: float
    out_s: float | None
    refill_s: float | None
    between_s: float
    short: Words | None


class PondReport(Report):
    """A pond: its feed and losses [L/d], what a storm and waves take over its overflow, and what its top-up says."""

    vessel: str
    outlet: str | None
    keeps_m: float | None
    loop: LoopReport | None
    places: list[FloatPlaceReport]
    storm_over_l: float | None
    waves_over_m: float | None
    change: ChangeReport | None
    expected_lpd: float
    least_lpd: float
    most_lpd: float
    measured_lpd: float | None
    still_mm_d: float
    remover_d: float | None


class PondsReport(Report):
    ponds: list[PondReport]


def ponds_report(analysis: Analysis) -> PondsReport:
    """Return what is told of every pond of a design."""
    return PondsReport(ponds=[_pond(analysis, pond) for pond in ponds(analysis)])


def _pond(analysis: Analysis, pond: Pond) -> PondReport:
    change, top_up, levels = pond.change, pond.top_up, pond.levels
    floor = pond.basin.floor_m
    return PondReport(
        vessel=pond.vessel.id,
        outlet=pond.outlet.id if pond.outlet else None,
        keeps_m=None if pond.keeps_m is None else pond.keeps_m - floor,
        loop=None
        if levels is None or pond.chamber is None
        else LoopReport(
            chamber=pond.chamber.vessel.id,
            fall_m=levels.fall_m,
            pond_on_m=levels.pond_on_m - floor,
            chamber_on_m=max(0.0, levels.chamber_on_m - pond.chamber.floor_m),
            pond_off_m=levels.off_m - floor,
            chamber_off_m=levels.off_m - pond.chamber.floor_m,
        ),
        places=[_place(pond, place) for place in FloatPlace if place is not FloatPlace.FILTER or levels is not None],
        storm_over_l=pond.storm_over_l,
        waves_over_m=pond.waves_over_m,
        change=None
        if change is None
        else ChangeReport(
            volume_l=change.volume_l,
            out_s=change.out_s,
            refill_s=change.refill_s,
            between_s=change.between_s,
            short=None if (short := _short(analysis, pond)) is None else words(short),
        ),
        expected_lpd=top_up.expected_lpd,
        least_lpd=top_up.least_lpd,
        most_lpd=top_up.most_lpd,
        measured_lpd=top_up.measured_lpd,
        still_mm_d=top_up.most_lpd * LITRE_M3 / top_up.area_m2 / MILLIMETRE_M if top_up.area_m2 > 0.0 else 0.0,
        remover_d=remover_lasts_d(pond),
    )


def _short(analysis: Analysis, pond: Pond) -> Wording | None:
    """Return which outlets get less than is wanted while a pond is filled again; None where none does."""
    short = [
        say("{} gets {}", label(outlet), Quantity(value=lpm_from_m3s(flow), unit="L/min"))
        for outlet, flow in short_meanwhile(analysis, pond)
    ]
    return listed(short) if short else None


def _place(pond: Pond, place: FloatPlace) -> FloatPlaceReport:
    """Return what a float in a place would be set to for the same water in the pond, and what speaks for it."""
    keeps_m, levels = pond.keeps_m, pond.levels
    if keeps_m is None:
        keeps_m = pond.basin.floor_m + pond.vessel.level_m
    spare_m = pond.basin.brim_m - keeps_m
    wave_m = pond.pond.wave_mm * MILLIMETRE_M
    says: list[Wording] = []
    set_to_m: float | None = keeps_m - pond.basin.floor_m
    if place is FloatPlace.POND:
        says.append(say("In sight, and in the way of waves, wind, fish and nets"))
        if wave_m > 0.0:
            left = depth(spare_m - wave_m)
            says.append(say("Waves of {} move it: {} are left to the overflow", depth(wave_m), left))
        if levels is not None and levels.opens_off_m3 > 0.0:
            says.append(say(
                "Each time the pump stops the pond sinks by {}, and the float lets in {} too much",
                depth(levels.pond_on_m - levels.off_m), Quantity(value=levels.opens_off_m3 / LITRE_M3, unit="L"),
            ))  # fmt: skip
    elif place is FloatPlace.FILTER and levels is not None and pond.chamber is not None:
        set_to_m = levels.chamber_on_m - pond.chamber.floor_m
        says.append(say("Set it with the pump running: the chamber stands {} lower then", depth(levels.fall_m)))
        says.append(say(
            "Set with the pump off, the pond comes to {} from its overflow when it runs",
            depth(pond.basin.brim_m - levels.pond_if_set_off_m),
        ))  # fmt: skip
        says.append(say(
            "With the pump off {} are left to the chamber's rim", depth(pond.chamber.brim_m - levels.off_m)
        ))  # fmt: skip
        says.append(say("A filter that clogs lowers its chamber, and the float overfills the pond"))
    elif place is FloatPlace.BALANCE:
        says.append(say("Out of sight in still water, at the pond's level, with its own overflow and stopcock"))
        says.append(say("{} are left to the pond's overflow", depth(spare_m)))
        if levels is not None and levels.opens_off_m3 > 0.0:
            says.append(say(
                "Each time the pump stops it lets in {} too much, as in the pond",
                Quantity(value=levels.opens_off_m3 / LITRE_M3, unit="L"),
            ))  # fmt: skip
    return FloatPlaceReport(
        place=place.value, is_here=pond.place is place, set_to_m=set_to_m, says=[words(one) for one in says]
    )
