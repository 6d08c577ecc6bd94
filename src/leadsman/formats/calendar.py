"""A plan's tasks and moves as a calendar (RFC 5545) that phones subscribe to."""

from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event

from leadsman.core.base.unit_system import System
from leadsman.core.report.base import spoken
from leadsman.core.report.upkeep import UpkeepReport

REFRESHED = timedelta(hours=12)


def calendar_of(upkeep: UpkeepReport, name: str, design_id: str, today: date, system: System = "metric") -> bytes:
    """Return the calendar: an event of the whole day for each task and move; what is late stands on today."""
    made = Calendar()
    made.add("prodid", "-//Leadsman//calendar//EN")
    made.add("version", "2.0")
    made.add("method", "PUBLISH")
    made.add("x-wr-calname", name)
    made.add("refresh-interval", REFRESHED, parameters={"value": "DURATION"})
    for task in upkeep.tasks:
        late = f"Due since {task.due.isoformat()}. " if task.late else ""
        about = late + spoken(task.why, system)
        made.add_component(_event(f"{task.id}@{design_id}", max(task.due, today), spoken(task.told, system), about))
    for move in upkeep.moves:
        told = f"Move {move.herd_name} to {move.reached_name}"
        steps = "\n".join(f"{number}. {spoken(step, system)}" for number, step in enumerate(move.steps, start=1))
        made.add_component(_event(f"move:{move.day}:{move.herd}:{move.reached}@{design_id}", move.day, told, steps))
    written: bytes = made.to_ical()
    return written


def _event(uid: str, day: date, told: str, about: str) -> Event:
    event = Event()
    event.add("uid", uid)
    event.add("dtstamp", datetime.now(UTC))
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("summary", told)
    event.add("description", about)
    event.add("transp", "TRANSPARENT")
    return event
