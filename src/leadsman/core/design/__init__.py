"""The design document: one JSON object that describes a site and what is laid on it.

Keys carry their unit. The models are strict: a string is not a number, an unknown key is refused, NaN and infinity
are refused. `read_design` in `design.file` reads one. Beside the models stands what is plain from a document alone:
layout, pipes and fittings of its lines, stores, cost. May import base, physics and catalogue.
"""

from leadsman.core.design.base import Part, fault
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
from leadsman.core.design.site import Anchor, Place, Site
from leadsman.core.design.survey import (
    BarometerSight,
    BetweenPlaces,
    ClinometerSight,
    Distance,
    HeightSight,
    HoseLevelSight,
    LevelBook,
    PaceCount,
    SightBase,
    StaffReading,
    TimedFlow,
)
from leadsman.core.design.use import Draw, Requirement, Scenario
from leadsman.core.design.vessel import (
    BoxShape,
    FrustumShape,
    LyingCylinderShape,
    Portable,
    StageVolumeShape,
    UprightCylinderShape,
    Vessel,
    VesselShape,
)

__all__ = [
    "Anchor",
    "BarometerSight",
    "BetweenPlaces",
    "BoxShape",
    "ClinometerSight",
    "Crop",
    "CropStep",
    "Design",
    "Distance",
    "Draw",
    "Drinking",
    "EmitterOutlet",
    "Fitting",
    "FixedOutlet",
    "FloatValveOutlet",
    "FrustumShape",
    "HaulInflow",
    "HeadCount",
    "HeightSight",
    "Herd",
    "HoseLevelSight",
    "InflowBase",
    "InlinePart",
    "LevelBook",
    "LevelStep",
    "Line",
    "LyingCylinderShape",
    "OpenEndOutlet",
    "Outlet",
    "OutletBase",
    "PaceCount",
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
    "SightBase",
    "Site",
    "SpringInflow",
    "StaffReading",
    "StageVolumeShape",
    "SteadyInflow",
    "TimedFlow",
    "Timer",
    "Timing",
    "UprightCylinderShape",
    "ValveData",
    "Vessel",
    "VesselShape",
    "Weather",
    "fault",
    "label",
]
