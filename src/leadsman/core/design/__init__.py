"""The design document: one JSON object that describes a site and what is laid on it.

Keys carry their unit. The models are strict: a string is not a number, an unknown key is refused,
NaN and infinity are refused. `read_design` in `design_file` is the door; these classes are its shapes.
"""

from leadsman.core.design.base import CLOCK_PATTERN, DATE_PATTERN, ID_PATTERN, Part, fault
from leadsman.core.design.document import Design, label
from leadsman.core.design.grazing import Paddock, Rotation
from leadsman.core.design.growing import Crop, CropStep, PondLoss, Timer
from leadsman.core.design.herd import Drinking, HeadCount, Herd
from leadsman.core.design.inflow import (
    HaulInflow,
    InflowBase,
    PumpInflow,
    RainInflow,
    RamInflow,
    SeasonPlan,
    SpringInflow,
    SteadyInflow,
    Timing,
    Weather,
)
from leadsman.core.design.line import Fitting, InlinePart, Line, Pump, Run
from leadsman.core.design.outlet import (
    EmitterOutlet,
    FixedOutlet,
    FloatValveOutlet,
    LevelStep,
    OpenEndOutlet,
    Outlet,
    OutletBase,
    ValveData,
)
from leadsman.core.design.site import Place, Site
from leadsman.core.design.survey import LevelBook, StaffReading
from leadsman.core.design.use import Requirement, Scenario
from leadsman.core.design.vessel import (
    BoxShape,
    FrustumShape,
    LyingCylinderShape,
    Portable,
    StageVolumeShape,
    UprightCylinderShape,
    Vessel,
    VesselShape,
    shape_height_m,
)

__all__ = [
    "CLOCK_PATTERN",
    "DATE_PATTERN",
    "ID_PATTERN",
    "BoxShape",
    "Crop",
    "CropStep",
    "Design",
    "Drinking",
    "EmitterOutlet",
    "Fitting",
    "FixedOutlet",
    "FloatValveOutlet",
    "FrustumShape",
    "HaulInflow",
    "HeadCount",
    "Herd",
    "InflowBase",
    "InlinePart",
    "LevelBook",
    "LevelStep",
    "Line",
    "LyingCylinderShape",
    "OpenEndOutlet",
    "Outlet",
    "OutletBase",
    "Paddock",
    "Part",
    "Place",
    "PondLoss",
    "Portable",
    "Pump",
    "PumpInflow",
    "RainInflow",
    "RamInflow",
    "Requirement",
    "Rotation",
    "Run",
    "Scenario",
    "SeasonPlan",
    "Site",
    "SpringInflow",
    "StaffReading",
    "StageVolumeShape",
    "SteadyInflow",
    "Timer",
    "Timing",
    "UprightCylinderShape",
    "ValveData",
    "Vessel",
    "VesselShape",
    "Weather",
    "fault",
    "label",
    "shape_height_m",
]
