"""JSON of the floats set out: section of each vessel, heights, floats over their travel, how each is adjusted."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.parts.section import VesselSection
from leadsman.core.parts.setting import FREE_M, LevelKind, SetFloat, Setting, corners_of, settings, told
from leadsman.core.report.base import Report, Words, words

Spot = tuple[float, float]

HOW = (
    "Mark the hole with the vessel full to its closing level: thin walls bulge, and floors are seldom level.",
    "In an empty vessel the float hangs lower than drawn, down to its stop: see that it catches on nothing there.",
    "Lift the float by hand: it has to shut; let go: it runs at once; three times.",
)  # common practice, no source


class SetLevelReport(Report):
    """A height over the vessel's floor [m]."""

    kind: LevelKind
    at_m: float
    name: str


class RoomReport(Report):
    """What a float comes near over its travel [mm]; below 0 they meet."""

    to: str
    room_mm: float


class SetFloatReport(Report):
    """One float valve; spots are [across, up] in m from the foot of the valve's wall, null where nobody knows them.

    `is_known` says whether float and arm are the plan's, not those of the valve of the catalogue that comes near it.
    """

    outlet: str
    what: str
    is_known: bool
    wall: str
    hole_m: float | None
    level_hole_m: float | None
    wall_at_m: float | None
    closes_at_m: float
    opens_at_m: float
    arm_mm: float | None
    float_mm: float | None
    pin: Spot | None
    shut: Spot | None
    open: Spot | None
    travel: list[Spot]
    falls_mm: float
    sunk_mm: float | None
    rooms: list[RoomReport]
    adjust: list[Words]


class ThingReport(Report):
    """Something in a vessel, between two corners [across, up] in m."""

    name: str
    low: Spot
    high: Spot


class SettingReport(Report):
    """One vessel; `outline` is its inside from the near rim round to the far one, [across, up] in m."""

    vessel: str
    count: int
    link_mm: float | None
    outline: list[Spot]
    shape_known: bool
    levels: list[SetLevelReport]
    floats: list[SetFloatReport]
    things: list[ThingReport]
    notes: list[Words]


class SettingsReport(Report):
    """Every vessel that floats fill; `free_mm` is the room that each float is to keep."""

    settings: list[SettingReport]
    free_mm: float
    how: list[str]


def settings_report(analysis: Analysis) -> SettingsReport:
    """Return the floats of a design set out, as on the day shown."""
    found = [_setting(setting) for setting in settings(analysis)]
    return SettingsReport(settings=found, free_mm=FREE_M / MILLIMETRE_M, how=list(HOW))


def _setting(setting: Setting) -> SettingReport:
    vessel = setting.vessel
    corners = [(thing, corners_of(thing, setting.section)) for thing in vessel.inside]
    return SettingReport(
        vessel=vessel.id,
        count=vessel.count,
        link_mm=vessel.link_mm,
        outline=[_spot(corner) for corner in setting.section.outline],
        shape_known=setting.section.is_known,
        levels=[
            SetLevelReport(kind=level.kind, at_m=round(level.at_m, 4), name=level.name) for level in setting.levels
        ],
        floats=[_float(one, setting.section) for one in setting.floats],
        things=[
            ThingReport(name=told(thing), low=_spot(pair[0]), high=_spot(pair[1])) for thing, pair in corners if pair
        ],
        notes=[words(note) for note in setting.notes],
    )


def _float(one: SetFloat, section: VesselSection) -> SetFloatReport:
    travel, mount = one.travel, one.outlet.mount
    return SetFloatReport(
        outlet=one.outlet.id,
        what=one.product.name,
        is_known=one.is_known,
        wall=mount.wall if mount else "end",
        hole_m=_metres(one.hole_m),
        level_hole_m=_metres(one.level_hole_m),
        wall_at_m=_metres(_wall_at_m(one, section)),
        closes_at_m=round(one.closes_at_m, 4),
        opens_at_m=round(one.opens_at_m, 4),
        arm_mm=_mm(one.arm_m),
        float_mm=_mm(one.float_diameter_m),
        pin=_spot(travel.arm.pin) if travel else None,
        shut=_spot(travel.shut) if travel else None,
        open=_spot(travel.open) if travel else None,
        travel=[_spot(middle) for middle in travel.middles] if travel else [],
        falls_mm=round(one.outlet.valve.band_m / MILLIMETRE_M, 1),
        sunk_mm=_mm(one.sunk_m),
        rooms=[RoomReport(to=room.to, room_mm=round(room.room_m / MILLIMETRE_M, 1)) for room in one.rooms],
        adjust=[words(line) for line in one.adjust],
    )


def _wall_at_m(one: SetFloat, section: VesselSection) -> float | None:
    """Return where the valve's wall stands [m] at its hole; None where no hole is known, or no wall."""
    hole_m = one.level_hole_m if one.hole_m is None else one.hole_m
    return None if hole_m is None or not section.is_known else section.near_wall_m(hole_m)


def _spot(spot: tuple[float, float]) -> Spot:
    return round(spot[0], 4), round(spot[1], 4)


def _metres(value: float | None) -> float | None:
    return None if value is None else round(value, 4)


def _mm(value: float | None) -> float | None:
    return None if value is None else round(value / MILLIMETRE_M, 1)
