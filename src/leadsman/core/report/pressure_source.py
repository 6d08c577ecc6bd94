"""JSON of the sources under pressure: their curves, what they give in the plan, and of rams drive, waste and climb."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.source_duty import SourceDuty, source_duties
from leadsman.core.base.units import DAY_S, LITRE_M3, MINUTE_S, kpa_from_pa, lpm_from_m3s, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import RamSource, RamTrial
from leadsman.core.farm.ram import drive_pipe_lengths_m, rankine_efficiency, trial_duty
from leadsman.core.farm.spring import timed_flow_m3s
from leadsman.core.report.base import Report, Words, words


class ClimbReport(Report):
    """How water comes up to an outlet: litres in the line over the source, minutes at most; null where none comes."""

    outlet: str
    lift_m: float
    holds_l: float
    climb_min: float | None


class DrainBackReport(Report):
    """What runs back out of a rising line through a lower outlet [L], and minutes until its end runs again."""

    filled: str
    outlet: str
    lost_l: float
    again_min: float | None


class RamTrialReport(Report):
    """A trial of a ram: what drove it, what it delivered, and its efficiency after D'Aubuisson and after Rankine."""

    drive_lpm: float
    delivered_lpm: float
    efficiency: float
    rankine: float
    is_best: bool


class RamReport(Report):
    """A ram in its plan; `waste_shut_lpm` runs to waste while every float is shut, `lengths_m` bound its drive pipe."""

    drive_lpm: float
    efficiency: float
    waste_lpm: float
    waste_shut_lpm: float
    trials: list[RamTrialReport]
    lengths_m: tuple[float, float] | None


class PressureSourceReport(Report):
    """A source with all outlets drawing; `curve` is [L/min, kPa] over its own ground."""

    id: str
    given_lpm: float
    least_lpm: float
    daily_l: float
    pressure_kpa: float
    greatest_kpa: float
    curve: list[tuple[float, float]]
    climbs: list[ClimbReport]
    drain_backs: list[DrainBackReport]
    ram: RamReport | None
    told_words: Words


def pressure_source_reports(analysis: Analysis) -> list[PressureSourceReport]:
    """Return every source under pressure of a design."""
    return [_report(analysis, duty) for duty in source_duties(analysis)]


def _report(analysis: Analysis, duty: SourceDuty) -> PressureSourceReport:
    density = analysis.model.water.density_kgm3
    flows, heads = duty.curve
    return PressureSourceReport(
        id=duty.source.id,
        given_lpm=lpm_from_m3s(duty.given_m3s),
        least_lpm=lpm_from_m3s(duty.least_m3s),
        daily_l=analysis.brings_m3.get(duty.source.id, duty.least_m3s * DAY_S) / LITRE_M3,
        pressure_kpa=kpa_from_pa(duty.pressure_pa),
        greatest_kpa=kpa_from_pa(duty.greatest_pa),
        curve=[
            (round(lpm_from_m3s(flow), 3), round(kpa_from_pa(pa_from_head_m(head, density)), 2))
            for flow, head in zip(flows.tolist(), heads.tolist(), strict=True)
        ],
        climbs=[
            ClimbReport(
                outlet=climb.outlet.id,
                lift_m=climb.lift_m,
                holds_l=climb.holds_m3 / LITRE_M3,
                climb_min=None if climb.climb_s is None else climb.climb_s / MINUTE_S,
            )
            for climb in duty.climbs
        ],
        drain_backs=[
            DrainBackReport(
                filled=back.filled.id,
                outlet=back.outlet.id,
                lost_l=back.volume_m3 / LITRE_M3,
                again_min=None if back.again_s is None else back.again_s / MINUTE_S,
            )
            for back in duty.drain_backs
        ],
        ram=_ram(duty),
        told_words=words(_told(duty)),
    )


def _ram(duty: SourceDuty) -> RamReport | None:
    source = duty.source
    if not isinstance(source, RamSource) or duty.ram is None:
        return None
    best = max((trial_duty(trial, source.fall_m).efficiency for trial in source.trials), default=0.0)
    return RamReport(
        drive_lpm=lpm_from_m3s(duty.ram.drive_m3s),
        efficiency=duty.ram.efficiency,
        waste_lpm=lpm_from_m3s(max(duty.ram.drive_m3s - duty.given_m3s, 0.0)),
        waste_shut_lpm=lpm_from_m3s(duty.ram.drive_m3s),
        trials=[_trial(trial, source.fall_m, best) for trial in source.trials],
        lengths_m=None if source.drive_mm is None else drive_pipe_lengths_m(source.drive_mm),
    )


def _trial(trial: RamTrial, fall_m: float, best: float) -> RamTrialReport:
    duty = trial_duty(trial, fall_m)
    delivered = timed_flow_m3s(trial.delivery.volume_l * LITRE_M3, trial.delivery.time_s)
    return RamTrialReport(
        drive_lpm=lpm_from_m3s(duty.drive_m3s),
        delivered_lpm=lpm_from_m3s(delivered),
        efficiency=duty.efficiency,
        rankine=rankine_efficiency(duty.drive_m3s, delivered, fall_m, trial.lift_m),
        is_best=duty.efficiency >= best,
    )


def _told(duty: SourceDuty) -> Wording:
    if duty.ram is not None:
        waste = Quantity(value=lpm_from_m3s(max(duty.ram.drive_m3s - duty.given_m3s, 0.0)), unit="L/min")
        all_of_it = Quantity(value=lpm_from_m3s(duty.ram.drive_m3s), unit="L/min")
        return say(
            "{} run to waste with all running, {} once every float is shut; it must never be shut in.", waste, all_of_it
        )
    given = Quantity(value=lpm_from_m3s(duty.given_m3s), unit="L/min")
    left = Quantity(value=kpa_from_pa(duty.pressure_pa), unit="kPa")
    most = Quantity(value=kpa_from_pa(duty.greatest_pa), unit="kPa")
    return say("Gives {} at {} with all running; up to {} stand in its lines.", given, left, most)
