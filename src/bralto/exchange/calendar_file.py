"""The practice plan as iCalendar (RFC 5545): an event a week on each chosen day."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from bralto.core.longitudinal.practice import Plan

__all__ = ["plan_calendar"]

_DAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
_ALARM_MIN = 10


def plan_calendar(plan: Plan, first: date, stamp: datetime) -> bytes:
    """The file's bytes. Times are the learner's own wherever they are (floating, RFC 5545 3.3.5).

    Args:
        first: the day from which on it counts. stamp: when it was made, UTC.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Bralto//practice plan//EN")
    calendar.add("version", "2.0")
    if plan.weekdays:
        hour, minute = (int(one) for one in plan.at.split(":"))
        start = next(
            day
            for day in (first + timedelta(days=ahead) for ahead in range(7))
            if day.weekday() in plan.weekdays
        )
        event = Event()
        event.add("uid", f"practice-{plan.minutes}-{''.join(map(str, plan.weekdays))}@bralto")
        event.add("dtstamp", stamp)
        begin = datetime(start.year, start.month, start.day, hour, minute)
        event.add("dtstart", begin)
        event.add("duration", timedelta(minutes=plan.minutes))
        event.add("summary", "Drawing practice")
        event.add("description", "What to do today stands in Bralto, on the record's page Today.")
        event.add("rrule", {"freq": "weekly", "byday": [_DAYS[day] for day in plan.weekdays]})
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", "Drawing practice")
        alarm.add("trigger", timedelta(minutes=-_ALARM_MIN))
        event.add_component(alarm)
        calendar.add_component(event)
    made: bytes = calendar.to_ical()
    return made
