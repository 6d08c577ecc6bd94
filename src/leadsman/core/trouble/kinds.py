"""Kinds of fault: how often they are behind a symptom, how one looks for them, how they are mended and kept away.

All of it is common practice, no source; the weights are relative, and ours where practice gives only an order.
"""

from dataclasses import dataclass
from typing import Literal, get_args

Symptom = Literal["overflow", "low", "slow", "nothing", "spluttering", "wet", "pump", "dirty", "frozen"]
SYMPTOMS: dict[Symptom, str] = {
    "overflow": "Overflow runs",
    "low": "Trough low",
    "slow": "Slow",
    "nothing": "Nothing at all",
    "spluttering": "Spluttering",
    "wet": "Wet ground",
    "pump": "Pump never stops",
    "dirty": "Dirty or smelly",
    "frozen": "Frozen",
}
CauseKind = Literal[
    "store_empty", "tap_shut", "filter", "check_valve", "air", "kinked", "leak", "frost", "dirt", "others", "float_up",
    "seat", "set_low", "caught", "holed", "grit", "washer", "set_high", "pressure", "second_source", "joint", "split",
    "tap_open", "drain_open", "switch", "pump_off", "pump_valve", "cushion", "vortex", "suction", "first_air", "light",
    "dead_end", "first_flush", "bottom", "animal", "valve_ice",
]  # fmt: skip
ISOLATE, AFTER = (
    "Shut the tap upstream, and open the nearest end so that no pressure stands there.",
    "Open the water, watch it shut once, and look again next day.",
)


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of fault; `told`, `look` and `yes` have a gap for the part.

    `weights` is how often it is behind each symptom, against the other kinds; `minutes` what the look takes there.
    """

    told: str
    look: str
    yes: str
    no: str
    minutes: float
    weights: dict[Symptom, float]
    mend: tuple[str, ...]
    prevent: str


KINDS: dict[CauseKind, Kind] = {
    "store_empty": Kind(
        told="{} is low or empty", look="Look into {}: does water stand well over its outlet?", yes="Low or empty",
        no="Well over it", minutes=1, weights={"low": 2, "slow": 1.5, "nothing": 4, "spluttering": 1},
        mend=("Find out what fills it: spring, roof, pump or haul.", "Fill it by hand or by trailer meanwhile.",
              "Let the air out of the line again once it stands full."),
        prevent="Look at its dipstick each day; more reserve, or a second source.",
    ),
    "tap_shut": Kind(
        told="The tap of {} is shut or half shut", look="Go to the tap of {}: is it fully open?", yes="Not fully open",
        no="Fully open", minutes=1, weights={"low": 3, "slow": 2, "nothing": 3},
        mend=("Open it slowly.",), prevent="Take the handle off, or mark it: who shuts it says so in the log.",
    ),
    "filter": Kind(
        told="The filter of {} is clogged", look="Shut the tap before the filter of {}, open it: is it dirty?",
        yes="Dirty", no="Clean", minutes=4, weights={"low": 3, "slow": 4, "nothing": 1},
        mend=("Shut the tap upstream.", "Rinse and brush the screen; no holes?", "Open slowly and flush."),
        prevent="Clean it on the days of the service calendar; a larger one lasts longer.",
    ),
    "check_valve": Kind(
        told="The check valve of {} sticks", look="Knock at the check valve of {}: does water start to run?",
        yes="It starts", no="It does not", minutes=2, weights={"low": 0.7, "slow": 0.7, "nothing": 0.7},
        mend=(ISOLATE, "Take it out, clean its seat and spring; its arrow points with the water."),
        prevent="A filter before it; once a year out and cleaned.",
    ),
    "air": Kind(
        told="Air stands in {}", look="Open the vent or loosen a joint at the high point of {}: does air come out?",
        yes="Air comes", no="Water at once", minutes=5, weights={"low": 1.5, "slow": 1, "nothing": 2},
        mend=("Let it hiss out until water runs without spitting, then close.", "Flush with one far end fully open."),
        prevent="A vent at the high point, or the pipe laid lower there; fill slowly from the top.",
    ),
    "kinked": Kind(
        told="{} is kinked, trodden or crushed", look="Walk along {}: is it bent flat, trodden or driven over?",
        yes="Yes", no="No", minutes=1, weights={"low": 1.2, "slow": 1.2, "nothing": 1},
        mend=(ISOLATE, "Cut the piece out, put a joiner in, both ends square and clamped."),
        prevent="Along the fence, away from gateways; a sleeve where it is crossed.",
    ),
    "leak": Kind(
        told="{} leaks on the way", look="Walk along {}: wet or very green ground, hissing?", yes="Yes", no="Dry",
        minutes=1, weights={"low": 1, "slow": 1.5, "nothing": 1, "pump": 2},
        mend=(ISOLATE, "Dig it free, cut back to sound pipe, a joiner with two clamps.",
              "Under full pressure for a day before it is covered."),
        prevent="Test under full pressure for a night before burying; weighted and out of hooves' way.",
    ),
    "frost": Kind(
        told="{} is frozen", look="Feel along {}: ice, hoar frost, hard where it lies bare?", yes="Yes", no="No",
        minutes=1, weights={"low": 1, "slow": 1, "nothing": 1.5, "frozen": 5},
        mend=("Wait for the sun, or warm water over it, never a flame.", "Open both ends: ice needs room.",
              "Walk along it as soon as it runs: is it split?"),
        prevent="Drain it before frost, bury it below frost depth, or let it run a little.",
    ),
    "dirt": Kind(
        told="{} is full of worms, slime or scale", look="Open the far end of {} fully: does dirt come with it?",
        yes="Dirt comes", no="Clear", minutes=4, weights={"low": 0.5, "slow": 1.5, "nothing": 0.3, "dirty": 1.5},
        mend=("Flush it from the top with the far end wide open until it runs clear.",),
        prevent="A screen at the intake; flush each spring; dark pipe.",
    ),
    "others": Kind(
        told="Other outlets on the way to {} take the water", look="Shut the others on its way: does {} run then?",
        yes="It runs", no="It does not", minutes=3, weights={"low": 2, "slow": 2.5, "nothing": 0.3},
        mend=("Throttle the lowest outlets, or let them fill by night.",),
        prevent="A wider main or smaller valves on the low outlets: the plan says which.",
    ),
    "float_up": Kind(
        told="The float of {} is stuck up", look="Press the float of {} down by hand: does it run?", yes="It runs",
        no="It does not", minutes=1, weights={"low": 2.5, "slow": 1, "nothing": 0.5},
        mend=("Free it over its whole travel: basket, wall, ice, hose.", "Grease no rubber; straighten the arm."),
        prevent="A guard over it; room on all sides over its whole travel.",
    ),
    "seat": Kind(
        told="The opening of {} is clogged",
        look="Take {} off its hose: does the hose alone run well?", yes="The hose runs well",
        no="Nor does the hose", minutes=6, weights={"low": 2, "slow": 3, "nothing": 0.5},
        mend=(ISOLATE, "Take the valve apart, rinse seat and opening, hold the small parts in a cup.",
              "Flush the hose before the valve goes back on."),
        prevent="A filter before it; a valve with a wider opening.",
    ),
    "set_low": Kind(
        told="{} is set to shut too low", look="Does {} shut by itself at a level under the wanted one?", yes="Yes",
        no="It does not shut", minutes=2, weights={"low": 1.5, "slow": 0.2},
        mend=("Bend the arm up or turn the screw out a little; measure the level at which it shuts.",),
        prevent="Note the level in the log when it is set.",
    ),
    "caught": Kind(
        told="The float of {} is caught", look="Lift the float of {} gently: does it stop?", yes="It stops",
        no="Runs on", minutes=1, weights={"overflow": 4},
        mend=("Free it over its whole travel.", "Straighten or shorten the arm."),
        prevent="A guard; room on all sides over its whole travel.",
    ),
    "holed": Kind(
        told="The float of {} is full of water", look="Shake the float of {}: does water sound in it?", yes="Yes",
        no="No", minutes=1, weights={"overflow": 1.5},
        mend=(ISOLATE, "A new float, of the same lift or more."), prevent="A spare float in the box.",
    ),
    "grit": Kind(
        told="Grit sits under the seat of {}",
        look="Press the float of {} down so that it runs full, let it snap up, twice: does it shut now?",
        yes="It shuts", no="Runs on", minutes=1, weights={"overflow": 4},
        mend=("Where it happens again: shut the tap, take the valve apart, rinse seat and washer.",),
        prevent="Flush before valves are fitted; a filter before them.",
    ),
    "washer": Kind(
        told="The washer of {} is worn", look="Shut the tap, take the washer of {} out: is it grooved, hard or split?",
        yes="Yes", no="Sound", minutes=8, weights={"overflow": 2.5},
        mend=(ISOLATE, "Turn the washer round or put in a new one.", "Smooth the seat; no tape under it."),
        prevent="Spare washers of each valve; look once a year.",
    ),
    "set_high": Kind(
        told="{} shuts only above the overflow", look="Press the water level: is the float of {} up, the water at the "
        "overflow?", yes="Yes", no="No", minutes=1, weights={"overflow": 2},
        mend=("Bend the arm down or turn the screw in.", "Measure: it has to shut well under the overflow."),
        prevent="The setting is on the sheet of floats, with its hole.",
    ),
    "pressure": Kind(
        told="The pressure is above what {} shuts against",
        look="Read a gauge before {} with all shut: is it over the valve's greatest pressure?", yes="Over",
        no="Under", minutes=5, weights={"overflow": 0.5},
        mend=("Half shut the tap for now.",), prevent="A pressure reducer or a break tank; a valve for the pressure.",
    ),
    "second_source": Kind(
        told="Something else fills the vessel of {}", look="Shut the tap before {}: does the water rise all the same?",
        yes="It still rises", no="It stops", minutes=3, weights={"overflow": 0.7},
        mend=("Find the other inflow: roof, spring, a link from a higher vessel.",),
        prevent="An overflow that carries what comes in.",
    ),
    "joint": Kind(
        told="A joint of {} leaks", look="Feel every joint of {}: is one wet from above?", yes="One is", no="All dry",
        minutes=3, weights={"wet": 4},
        mend=(ISOLATE, "Washer, thread or clamp: hand tight and a quarter turn, no more.", "Where it weeps on: anew."),
        prevent="Look at every joint for three days before it is covered.",
    ),
    "split": Kind(
        told="{} is split", look="Dig where {} is wettest: does water come from the pipe itself?", yes="Yes", no="No",
        minutes=12, weights={"wet": 2.5},
        mend=(ISOLATE, "Cut back to sound pipe on both sides, a joiner with two clamps."),
        prevent="No sharp bends, no stones against it; drained before frost.",
    ),
    "tap_open": Kind(
        told="The tap of {} is a little open", look="Go to the tap of {}: does it drip or run?", yes="It does",
        no="Shut", minutes=2, weights={"wet": 2, "pump": 1.5},
        mend=("Shut it; a new washer where it drips on.",), prevent="Caps on taps that are not used.",
    ),
    "drain_open": Kind(
        told="The drain of {} is open", look="Look at the drain of {}: is it open?", yes="Open", no="Shut",
        minutes=2, weights={"wet": 2, "low": 0.5, "pump": 0.7},
        mend=("Shut it.",), prevent="Tick off drains on the spring start.",
    ),
    "switch": Kind(
        told="The switch of {} hangs", look="Lift the float switch of {} by hand: does the pump stop?", yes="It stops",
        no="Runs on", minutes=2, weights={"pump": 3},
        mend=("Free the float and its cable.", "A switch that fails goes to an electrician."),
        prevent="Room round the float; looked at each month.",
    ),
    "pump_off": Kind(
        told="{} does not run", look="Listen at {}: does it run?", yes="It is still", no="It runs", minutes=1,
        weights={"low": 1.5, "nothing": 2.5},
        mend=("Fuse, switch, fuel or sun first.", "Prime it before it runs: never dry.",
              "Anything electric: shut off first, or a licensed electrician."),
        prevent="A day's reserve in the tank; a spare fuse.",
    ),
    "pump_valve": Kind(
        told="The check or foot valve of {} does not hold", look="Stop {}: does the water run back?",
        yes="It runs back", no="It stands", minutes=4, weights={"pump": 2, "nothing": 0.5},
        mend=(ISOLATE, "Clean or change the check valve; prime again."), prevent="A strainer at the intake.",
    ),
    "cushion": Kind(
        told="The air cushion of {} is gone", look="Does {} start and stop every few minutes?", yes="Yes", no="No",
        minutes=3, weights={"pump": 1.5},
        mend=("Drain the pressure vessel and pump it up with air to just under the cut-in pressure.",),
        prevent="Checked once a year.",
    ),
    "vortex": Kind(
        told="{} draws air in at its outlet", look="Look into {}: does a whirl stand over the outlet?", yes="Yes",
        no="No",
        minutes=1, weights={"spluttering": 3},
        mend=("Fill it, or draw less until it is full.",), prevent="A plate over the outlet; refill before it is low.",
    ),
    "suction": Kind(
        told="{} draws air in at a joint", look="Smear soap or clay on the joints of {} at its highest part: does the "
        "spluttering stop?", yes="It stops", no="It goes on", minutes=8, weights={"spluttering": 2},
        mend=(ISOLATE, "New washer or clamp; there is suction, so it does not drip."),
        prevent="Lay the line below the grade: the profile shows where it is not.",
    ),
    "first_air": Kind(
        told="Air of the filling is not out of {}", look="Was the line to {} filled in the last days?", yes="Yes",
        no="No", minutes=1, weights={"spluttering": 2.5},
        mend=("Let it run at the far end until it stops spitting.",), prevent="Fill slowly from the top, vents open.",
    ),
    "light": Kind(
        told="Light gets into {}", look="Look at {}: green walls, a lid that lets light in?", yes="Yes", no="No",
        minutes=1, weights={"dirty": 2.5},
        mend=("Empty and brush it; cover it.",), prevent="Dark walls and a tight lid.",
    ),
    "dead_end": Kind(
        told="Water stands in a dead end at {}", look="Let {} run for five minutes: is it clear then?",
        yes="Clear then", no="As before", minutes=6, weights={"dirty": 1.5},
        mend=("Flush it.",), prevent="Use the far end daily, or take the dead end off.",
    ),
    "first_flush": Kind(
        told="The first flush of the roof into {} is full", look="Open the first-flush pipe of {}: is it full and "
        "shut?", yes="Full", no="Empty", minutes=2, weights={"dirty": 2},
        mend=("Empty it, clean its little hole and the gutter.",), prevent="Emptied after each rain.",
    ),
    "bottom": Kind(
        told="Mud lies in {}", look="Feel the bottom of {} with a stick: is there mud up to the outlet?", yes="Yes",
        no="Clean", minutes=2, weights={"dirty": 3},
        mend=("Draw it down, scrub, rinse through the bottom drain.",),
        prevent="Once a season; an outlet off the floor.",
    ),
    "animal": Kind(
        told="Something dead lies in {}", look="Look into {} with a lamp: is anything in it?", yes="Yes", no="No",
        minutes=1, weights={"dirty": 1.2},
        mend=("Take it out with gloves, empty, scrub, rinse twice.", "No drinking from it meanwhile: ask a vet."),
        prevent="A tight lid, mesh over every hole, a ramp in open troughs.",
    ),
    "valve_ice": Kind(
        told="{} is frozen", look="Is there ice at the float of {}, or in it?", yes="Ice", no="None",
        minutes=1, weights={"frozen": 4, "low": 0.5},
        mend=("Warm water over it, never a flame; move the float until it is free.",),
        prevent="A cover over the valve corner; animals that drink often keep it open.",
    ),
}  # fmt: skip
assert set(KINDS) == set(get_args(CauseKind))
