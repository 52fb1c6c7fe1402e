"""What is due, when and why: meters from runs, rules into due states, due states into an order of work."""

from care.due.agenda import Agenda, agenda
from care.due.context import Context
from care.due.intervals import assess, assess_machine
from care.due.loads import LoadLine
from care.due.past import Facts, Past
from care.due.schedule import Schedule
from care.due.usage import UsageLog

__all__ = [
    "Agenda",
    "Context",
    "Facts",
    "LoadLine",
    "Past",
    "Schedule",
    "UsageLog",
    "agenda",
    "assess",
    "assess_machine",
]
