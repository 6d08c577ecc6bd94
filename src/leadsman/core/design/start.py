"""What a new part begins with: our own figures, no source; each is marked as assumed until somebody confirms it."""

from typing import Any, Final

from leadsman.core.design.document import Design
from leadsman.core.design.file import read_design

USUAL_PIPE = "pe100-sdr17-32"
REACH_FLOW_LPM, REACH_NEEDS_M = 15.0, 1.5  # what is asked of the ground that a source can serve, to begin with
STARTS: dict[str, dict[str, Any]] = {
    thing: {"role": role, "shape": shape, "stand_m": 0.0, "outlet_m": 0.1, "level_m": level_m,
            "assumed": ["shape", "level_m"]}
    for thing, role, shape, level_m in (
        ("tank", "tank", {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.0}, 1.5),
        ("spring box", "chamber", {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 1.0}, 0.7),
        ("pond", "pond", {"kind": "box", "length_m": 20.0, "width_m": 10.0, "height_m": 2.0}, 1.6),
    )
}  # fmt: skip
TROUGH: dict[str, Any] = {
    "role": "trough",
    "shape": {"kind": "box", "length_m": 2.0, "width_m": 0.6, "height_m": 0.5},
    "stand_m": 0.0,
    "overflow_m": 0.46,
    "level_m": 0.1,
    "assumed": ["shape", "overflow_m", "level_m"],
}
DRINKER: dict[str, Any] = {
    "role": "trough",
    "shape": {"kind": "box", "length_m": 0.45, "width_m": 0.35, "height_m": 0.2},
    "stand_m": 0.3,
    "overflow_m": 0.18,
    "level_m": 0.05,
    "assumed": ["shape", "overflow_m", "level_m"],
}
DRINKER_VALVE: dict[str, Any] = {
    "kind": "float_valve",
    "height_m": 0.5,
    "valve": {"kv_m3h": 0.9, "closes_at_m": 0.14, "band_m": 0.03},
    "assumed": ["height_m", "kv_m3h", "closes_at_m", "band_m"],
}
FLOAT_VALVE: dict[str, Any] = {
    "kind": "float_valve",
    "height_m": 0.5,
    "valve": {"kv_m3h": 2.0, "closes_at_m": 0.4, "band_m": 0.05},
    "assumed": ["height_m", "kv_m3h", "closes_at_m", "band_m"],
}
TAP: dict[str, Any] = {"kind": "open_end", "height_m": 0.6, "bore_mm": 20.0, "assumed": ["height_m", "bore_mm"]}
OTHER_OUTLETS: dict[str, dict[str, Any]] = {
    "tap": TAP,
    "drip outlet": {"kind": "emitter", "flow_lpm": 4.0, "pressure_kpa": 100.0, "exponent": 0.5,
                    "assumed": ["flow_lpm", "pressure_kpa"]},
    "fixed flow": {"kind": "fixed", "flow_lpm": 10.0, "assumed": ["flow_lpm"]},
}  # fmt: skip
HERD: dict[str, Any] = {"class": "growing cattle", "head": 10}
SUMMER_NORTH, SUMMER_SOUTH = ("05-01", "09-30"), ("11-01", "03-31")
CROP_WAYS: dict[str, dict[str, float]] = {
    "minutes": {"minutes_per_day": 30.0},
    "plants": {"plants": 50, "litres_each_lpd": 1.0},
    "area": {"area_m2": 50.0, "crop_factor": 1.0},
    "litres": {"litres_lpd": 100.0},
}
TIMER_STARTS = "05:00"
PAN_MM_D = 5.0
STEADY: dict[str, Any] = {"flow_lpm": 5.0, "hours_per_day": 24.0}
INFLOWS: dict[str, dict[str, Any]] = {
    "spring": {"timings": [{"volume_l": 10.0, "time_s": 120.0}]},
    "rain": {"area_m2": 50.0, "coefficient": 0.85, "first_loss_mm": 0.5, "first_flush_l": 0.0, "weep_lpd": 0.0},
    "pump": {"flow_lpm": 20.0, "hours_per_day": 2.0},
    "ram": {"fall_m": 2.0, "lift_m": 12.0, "drive_lpm": 40.0, "efficiency": 0.5},
    "haul": {"trip_l": 600.0, "trip_min": 45.0, "trips_per_week": 3.0},
    "siphon": STEADY,
    "transfer": STEADY,
    "mains": {"flow_lpm": 10.0, "hours_per_day": 1.0, "air_gap": True},
}
PRESSURE_SOURCES: dict[str, dict[str, Any]] = {
    "mains": {"kind": "mains", "static_kpa": 300.0, "timings": [{"volume_l": 20.0, "time_s": 60.0}],
              "assumed": ["static_kpa", "timings"]},
    "well": {"kind": "well", "static_kpa": 250.0, "cut_in_kpa": 200.0, "cut_out_kpa": 300.0,
             "timings": [{"volume_l": 20.0, "time_s": 60.0}],
             "assumed": ["static_kpa", "cut_in_kpa", "cut_out_kpa", "timings"]},
    "ram": {"kind": "ram", "fall_m": 2.0, "drive_lpm": 40.0, "efficiency": 0.5,
            "assumed": ["fall_m", "drive_lpm", "efficiency"]},
}  # fmt: skip
ORDINARY_DAY: Final = "ordinary day"
HOT_SPELL: Final = "hot spell"
CASES: dict[str, dict[str, Any]] = {
    ORDINARY_DAY: {"air_c": 20.0},
    HOT_SPELL: {"air_c": 32.0},
    "winter day": {"air_c": 2.0, "least_air_c": -5.0, "water_c": 4.0},
}
# a pump's curve at nothing, once and twice its flow
PUMP_FLOW_LPM, PUMP_LIFT_M, PUMP_CURVE_HEADS_M = 20.0, 15.0, (30.0, 20.0, 0.0)
SIGHTS: dict[str, dict[str, Any]] = {
    "hose_level": {"setups": [{}]},
    "clinometer": {"legs": [{}]},
    "barometer": {},
    "satellite": {"error_m": 5.0, "source": "phone", "datum": "differences"},
    "contour": {"error_m": 2.5, "source": "map", "datum": "site"},
    "timed_flow": {"volume_l": 20.0},
}


def new_design(site: str, thing: str, name: str, ground_m: float) -> Design:
    """Return a site with nothing on it but where the water starts: a tank, a spring box or a pond.

    It is judged for a hot spell, since that asks the most of it; an ordinary day is the other case.

    Raises:
        DesignFaults: a name or the height is not as the document takes it.
    """
    place = {"id": "start", "name": name, "east_m": 0.0, "north_m": 0.0, "ground_m": ground_m}
    return read_design(
        {
            "format": "leadsman-design",
            "version": 1,
            "name": "Plan A",
            "site": {"name": site},
            "places": [place],
            "vessels": [{"id": "source", "name": name, "place": "start", **STARTS[thing]}],
            "scenarios": [
                {"id": f"case-{number}", "name": case.capitalize(), **CASES[case]}
                for number, case in enumerate((ORDINARY_DAY, HOT_SPELL), 1)
            ],
            "shown_for": "case-2",
        }
    )
