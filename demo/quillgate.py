"""Quillgate 9: a shared four-storey house with a bookbinding workshop, long hair and a moulting rabbit.

Five machines and two docks over fourteen months: one part overdue, one filter on the rack when its robot is due to run,
weeks away, a time of moulting, and a stairs cordless that has begun to pulse.
"""

from collections.abc import Iterable, Iterator
from datetime import datetime, time
from uuid import uuid4

from care.due.schedule import Schedule
from care.faults.airflow import At
from care.household import DryingPlace, DustSource, Profile
from care.model import Provenance, Why
from care.season import Hands
from care.units import Quantity
from care.vocabulary import Action, Found, LoadKind, Meter, School, Silence, Skill
from care.washability import Mark
from demo import shelf
from demo.story import DAYS, Event, Habit, Story
from server.base import clock
from server.household.models import Member
from server.household.services import answer_profile, create_household, more_load
from server.notes.readings import Figure
from server.notes.services import add_note
from server.season.planning import season_of
from server.season.records import Habits
from server.season.services import keep_habits
from server.setup.overrides import own_figure
from server.setup.services import Spare, add_machine
from server.use.services import rest
from server.work.counters import read_counter
from server.work.services import renew_kit

SET_UP = 427
"""Days ago on which the house began: fourteen months."""
GROUND, ATTIC, HALL, STAIRS, TUB = "Ground robot", "Attic robot", "Hall upright", "Stairs cordless", "Workshop tub"
GROUND_DOCK, ATTIC_DOCK = "Ground dock", "Attic dock"
WEEKDAYS = Schedule("RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR", 50, time(10, 15))
ATTIC_WEEK = Schedule("RRULE:FREQ=WEEKLY;BYDAY=TU,SA", 60, time(13))
HALL_WEEK = Schedule("RRULE:FREQ=WEEKLY;BYDAY=TU,SA", 24, time(17), silence=Silence.RAN)
STAIRS_WEEK = Schedule("RRULE:FREQ=WEEKLY;BYDAY=MO,WE,FR,SU", 15, time(18, 30), silence=Silence.RAN)
TUB_WEEK = Schedule("RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR", 15, time(17, 45), silence=Silence.RAN)
MINUTES = (50, 52, 48, 50, 47, 51, 50, 35, 50, 49, 53)
"""Lengths of the ground robot's runs, in turn [min]; the short one met a sock."""
AWAY = range(319, 305, -1)
"""Two weeks in which nobody was at home."""
SHUT = (55, 42, 41, 40, 39, 33, 20)
"""Days on which the ground robot did not run: a week at the sea, and a few when the door was shut."""
MOPS = (0, 2, 4)
"""Weekdays on which the ground robot mops."""
CLEAN, LIGHT, DUE, FAR = Found.CLEAN, Found.LIGHT, Found.DUE, Found.OVERDUE


def load(*, now: datetime, user_name: str, password: str) -> Member:
    """Make the household and live its story until `now`. Raises `Conflict` when the user name is taken."""
    member = create_household(
        name="Quillgate 9", time_zone="Europe/Dublin", user_name=user_name, password=password, person="Wren"
    )
    story = Story(member, now)
    with clock.at(story.when(SET_UP, 18)):
        _move_in(story)
    story.live(
        _house(story),
        _ground(story),
        _ground_dock(story),
        _attic(story),
        _hall(story),
        _stairs(story),
        _tub(story),
        _lately(story),
        shelf.events(story),
        shelf.measured(story),
    )
    with clock.at(now):
        season_of(member)  # so that Round need not plan first
    return member


def _move_in(story: Story) -> None:
    home = Profile(
        long_haired=2,
        animals=1,
        area_m2=220,
        carpet=0.5,
        dust=(DustSource.WORKSHOP,),
        places=(DryingPlace("Utility room", 15, 80), DryingPlace("Airing cupboard", 24, 45)),
    )
    answer_profile(member=story.member, profile=home, school=School.LABEL)
    _add(story, HALL, "upright-belt", HALL_WEEK)
    _add(story, STAIRS, "cordless-two-filter", STAIRS_WEEK, marked=["filter"])
    _add(story, TUB, "canister-layered", TUB_WEEK)
    filter_b = [Spare("filter", "Filter B")]
    _add(story, GROUND, "robot-two-roller", WEEKDAYS, spares=filter_b, features=["mops"], marked=["filter"])
    _add(story, GROUND_DOCK, "dock-wash", None, serves=GROUND)
    _add(story, ATTIC, "robot-belt", ATTIC_WEEK, features=["washable-filter"])
    _add(story, ATTIC_DOCK, "dock-charge", None, serves=ATTIC)


def _likes_visits(story: Story) -> None:
    """Two evenings a week on which somebody has time."""
    days = tuple(DAYS[day] for day in story.weekdays((1, 5)))
    keep_habits(member=story.member, habits=Habits((Hands("Wren", days, 50, Skill.SCREWS),)))


def _add(
    story: Story,
    name: str,
    kind: str,
    week: Schedule | None,
    *,
    spares: Iterable[Spare] = (),
    features: Iterable[str] = (),
    serves: str | None = None,
    marked: Iterable[str] = (),
) -> None:
    story.machines[name] = uuid4()
    add_machine(
        member=story.member,
        machine_id=story.machines[name],
        name=name,
        archetype=kind,
        schedule=story.week(week) if week else None,
        spares=spares,
        features=features,
        serves=story.machines[serves] if serves else None,
        marked=dict.fromkeys(marked, Mark.YES),
    )


def _house(story: Story) -> Iterator[Event]:
    def away() -> None:
        rest(member=story.member, machine_id=None, why=Why.AWAY, first=story.day(319), last=story.day(306))

    def moulting() -> None:
        more_load(
            member=story.member,
            kind=LoadKind.HAIR,
            first=story.day(58),
            last=story.day(37),
            level=1.0,
            note="the rabbit moults",
        )

    yield Event(story.when(320, 20), "away", away)
    yield Event(story.when(57, 20), "moulting", moulting)
    yield Event(story.when(30, 20), "days for visits", lambda: _likes_visits(story))


def _ground(story: Story) -> Iterator[Event]:
    yield from story.runs(GROUND, WEEKDAYS, minutes=MINUTES, since=SET_UP - 1, skipped=[*AWAY, *SHUT], mops=MOPS)
    yield from story.habits(
        GROUND,
        Habit("bristle-roller", Action.DE_HAIR, 12, 415, 70),
        Habit("rubber-roller", Action.DE_HAIR, 12, 415, 70),
        Habit("side-brush", Action.DE_HAIR, 25, 405, 75),
        Habit("filter", Action.WASH, 14, 412, 72),
        Habit("caster", Action.DE_HAIR, 20, 410, 66, (DUE, LIGHT)),
        Habit("sensors", Action.WIPE, 30, 400, 70, (LIGHT,)),
        Habit("wheels", Action.WIPE, 33, 400, 66, (LIGHT,)),
        Habit("wheels", Action.DE_HAIR, 120, 380, 20, (LIGHT,)),
        Habit("contacts", Action.WIPE, 36, 400, 76),
        Habit("guard", Action.WIPE, 9, 413, 5, (LIGHT,)),
        Habit("bumper", Action.CLEAN, 115, 375, 30),
        Habit("bin", Action.WIPE, 31, 400, 28, (LIGHT, DUE)),
        Habit("mops", Action.INSPECT, 11, 412, 5, (LIGHT, CLEAN, LIGHT)),
        Habit("mops", Action.REPLACE, 91, 330, 40, (DUE,)),
    )
    kit = story.when(63, 18)
    yield Event(kit, "kit", lambda: renew_kit(member=story.member, machine_id=story.machines[GROUND], kit="brushes"))
    yield from _ground_lately(story)


def _ground_lately(story: Story) -> Iterator[Event]:
    """What people did to the ground robot since its kit was renewed."""
    rollers = [("bristle-roller", Action.DE_HAIR), ("rubber-roller", Action.DE_HAIR)]
    wash = ("filter", Action.WASH)
    yield story.sheet(GROUND, 50, 18, [*rollers, wash, ("side-brush", Action.DE_HAIR)], DUE)
    yield story.rack_check(GROUND, 48, 20)
    yield story.done(GROUND, 36, 19, "contacts", Action.WIPE)
    yield story.sheet(GROUND, 35, 18, [*rollers, wash, ("caster", Action.DE_HAIR)], DUE)
    yield story.rack_check(GROUND, 33, 20)
    yield story.done(GROUND, 29, 19, "wheels", Action.WIPE, LIGHT)
    yield story.done(GROUND, 26, 19, "sensors", Action.WIPE, LIGHT)
    yield story.sheet(GROUND, 24, 18, [*rollers, wash], FAR)
    yield story.rack_check(GROUND, 22, 20)
    yield story.done(GROUND, 21, 18, "side-brush", Action.DE_HAIR, DUE)
    yield story.done(GROUND, 14, 19, "rubber-roller", Action.DE_HAIR, DUE)
    yield story.sheet(GROUND, 12, 18, [wash], DUE)
    yield story.rack_check(GROUND, 10, 12)
    yield story.done(GROUND, 10, 18, "caster", Action.DE_HAIR, LIGHT)
    yield story.done(GROUND, 8, 18, "bristle-roller", Action.DE_HAIR, DUE)

    def counter() -> None:
        read_counter(
            member=story.member,
            machine_id=story.machines[GROUND],
            slot_key="side-brush",
            value=80,
            unit="percent",
            sense="left",
        )

    yield Event(story.when(7, 20), "counter", counter)


def _ground_dock(story: Story) -> Iterator[Event]:
    yield from story.habits(
        GROUND_DOCK,
        Habit("dirty-tank", Action.EMPTY, 2, 121, 1),
        Habit("dirty-tank", Action.WASH, 84, 371, 35, (DUE, LIGHT)),
        Habit("clean-tank", Action.RINSE, 28, 399, 7, (LIGHT, DUE)),
        Habit("tray", Action.WIPE, 14, 401, 9, (DUE, LIGHT, DUE)),
        Habit("float", Action.INSPECT, 14, 401, 9, (CLEAN,)),
        Habit("bag", Action.REPLACE, 56, 373, 37, (DUE, DUE, FAR)),
        Habit("seal", Action.WIPE, 56, 373, 37, (LIGHT,)),
        Habit("duct", Action.CLEAN, 190, 236, 40, (LIGHT,)),
        Habit("contacts", Action.WIPE, 30, 402, 12),
        Habit("bag-filter", Action.INSPECT, 56, 373, 37, (LIGHT,)),
    )
    yield story.looked(GROUND_DOCK, 6, 18, "bag", Action.REPLACE, LIGHT)


def _attic(story: Story) -> Iterator[Event]:
    yield from story.runs(ATTIC, ATTIC_WEEK, minutes=(60, 58, 61, 44), since=SET_UP - 1, skipped=AWAY)
    yield from story.habits(
        ATTIC,
        Habit("brush", Action.DE_HAIR, 17, 400, 9, (LIGHT, LIGHT, DUE)),
        Habit("filter", Action.CLEAN, 12, 410, 2, (LIGHT, DUE, LIGHT)),
        Habit("filter", Action.REPLACE, 140, 290, 120, (DUE,)),
        Habit("bin", Action.EMPTY, 7, 420, 2, (LIGHT, DUE)),
        Habit("bin", Action.WIPE, 70, 380, 30),
        Habit("gasket", Action.WIPE, 35, 395, 10, (LIGHT,)),
        Habit("side-left", Action.DE_HAIR, 18, 395, 17, (LIGHT,)),
        Habit("side-right", Action.DE_HAIR, 18, 395, 17, (LIGHT,)),
        Habit("side-left", Action.REPLACE, 290, 135, 100),
        Habit("side-right", Action.REPLACE, 290, 135, 100),
        Habit("brush", Action.REPLACE, 365, 62, 60, (DUE,)),
        Habit("caster", Action.DE_HAIR, 33, 395, 31, (LIGHT,)),
        Habit("belt", Action.INSPECT, 90, 390, 28, (CLEAN,)),
        Habit("sensors", Action.WIPE, 28, 400, 8, (LIGHT, CLEAN)),
        Habit("wheels", Action.WIPE, 72, 380, 18, (LIGHT,)),
        Habit("wheels", Action.DE_HAIR, 170, 380, 40, (LIGHT,)),
        Habit("contacts", Action.WIPE, 29, 395, 17),
        Habit("guard", Action.WIPE, 17, 400, 9, (LIGHT,)),
        Habit("bumper", Action.CLEAN, 160, 360, 40),
        Habit("filter", Action.WASH, 180, 178, 170, (DUE,)),
    )
    yield from story.habits(ATTIC_DOCK, Habit("contacts", Action.WIPE, 29, 395, 17))
    yield story.done(ATTIC, 1, 20, "filter", Action.WASH, DUE)
    yield story.hung(ATTIC, 1, 20, "Utility room")


def _hall(story: Story) -> Iterator[Event]:
    yield from story.runs(
        HALL, HALL_WEEK, minutes=(24, 31, 20, 26), since=SET_UP - 1, skipped=AWAY, every=3, provenance=Provenance.LOGGED
    )
    yield from story.habits(
        HALL,
        Habit("bin", Action.EMPTY, 6, 423, 3, (DUE, LIGHT, DUE, DUE)),
        Habit("bin", Action.WIPE, 36, 400, 4),
        Habit("bin-seal", Action.WIPE, 24, 400, 16, (LIGHT,)),
        Habit("foam", Action.WASH, 36, 398, 38, (DUE, LIGHT, DUE)),
        Habit("cyclone", Action.CLEAN, 24, 399, 15, (DUE,)),
        Habit("roll", Action.INSPECT, 34, 400, 26, (LIGHT, LIGHT)),
        Habit("roll", Action.DE_HAIR, 68, 366, 26, (DUE,)),
        Habit("belt", Action.INSPECT, 68, 366, 26, (CLEAN, LIGHT, LIGHT)),
        Habit("belt", Action.REPLACE, 365, 320, 310, (DUE,)),
        Habit("exhaust", Action.INSPECT, 185, 240, 50, (LIGHT,)),
        Habit("hose", Action.INSPECT, 185, 240, 50, (CLEAN,)),
        Habit("lower-hose", Action.INSPECT, 185, 240, 50, (CLEAN,)),
        Habit("cord", Action.INSPECT, 85, 355, 15, (CLEAN,)),
        Habit("whole", Action.CLEAN, 44, 395, 42, (DUE,)),
        Habit("ports", Action.INSPECT, 150, 380, 50, (CLEAN,)),
        Habit("tools", Action.CLEAN, 90, 385, 25),
    )


def _lately(story: Story) -> Iterator[Event]:
    """What people set and noted: how the foam sits, and a figure of their own for the diffuser."""
    hall, tub = story.machines[HALL], story.machines[TUB]
    words = "Goes in pale side up. The tab sits at the handle."
    yield Event(
        story.when(38, 21), "note", lambda: add_note(member=story.member, machine_id=hall, slot="foam", text=words)
    )
    yield Event(
        story.when(1, 19),
        "own figure",
        lambda: own_figure(
            member=story.member,
            machine_id=tub,
            slot="diffuser",
            action=Action.WASH,
            meter=Meter.DAYS,
            figure=6,
            why="paper dust shows on it first",
        ),
    )


def _stairs(story: Story) -> Iterator[Event]:
    yield from story.runs(
        STAIRS,
        STAIRS_WEEK,
        minutes=(15, 12, 18),
        since=SET_UP - 1,
        skipped=AWAY,
        every=5,
        provenance=Provenance.LOGGED,
    )
    yield from story.habits(
        STAIRS,
        Habit("bin", Action.EMPTY, 5, 421, 1, (DUE, LIGHT, DUE)),
        Habit("bin", Action.WIPE, 30, 400, 10),
        Habit("bin-seal", Action.WIPE, 28, 390, 24, (LIGHT, DUE)),
        Habit("shroud", Action.CLEAN, 18, 400, 20, (DUE, LIGHT)),
        Habit("filter", Action.WASH, 30, 404, 14, (DUE, DUE, LIGHT)),
        Habit("filter", Action.REPLACE, 365, 158, 150, (DUE,)),
        Habit("head", Action.INSPECT, 14, 411, 5, (LIGHT, LIGHT, DUE)),
        Habit("head", Action.DE_HAIR, 30, 389, 3, (DUE,)),
        Habit("flap", Action.WIPE, 28, 390, 24, (LIGHT,)),
        Habit("rear-ring", Action.WASH, 94, 326, 44, (DUE, LIGHT)),
        Habit("rear-centre", Action.WASH, 94, 326, 44, (DUE, LIGHT)),
        Habit("neck", Action.INSPECT, 185, 240, 50, (CLEAN,)),
        Habit("wand", Action.INSPECT, 185, 240, 50, (CLEAN,)),
        Habit("battery", Action.WIPE, 150, 350, 50, (LIGHT,)),
        Habit("battery", Action.INSPECT, 300, 350, 50, (CLEAN,)),
        Habit("whole", Action.CLEAN, 40, 395, 30, (DUE,)),
    )
    # It has begun to pulse: somebody looked where people look last.
    yield story.looked(STAIRS, 2, 19, "bin-seal", Action.WIPE, DUE)
    for days_ago, kpa in ((330, 11.6), (240, 11.2), (149, 11.5), (60, 11.1), (1, 10.9)):
        yield story.read(STAIRS, days_ago, 21, Figure(Quantity.SUCTION, kpa, "kPa", At.ORIFICE))
    for days_ago, minutes in ((330, 26), (149, 25), (20, 24)):
        yield story.read(STAIRS, days_ago, 21, Figure(Quantity.CHARGE, minutes, "min"))
    yield story.noticed(STAIRS, 1, 20, ["pulsing"], [("after-service", "no"), ("pitch", "higher")])


def _tub(story: Story) -> Iterator[Event]:
    yield from story.runs(
        TUB, TUB_WEEK, minutes=(15, 20, 10, 25), since=SET_UP - 1, skipped=AWAY, every=4, provenance=Provenance.LOGGED
    )
    yield from story.habits(
        TUB,
        Habit("liner", Action.INSPECT, 3, 151, 1, (CLEAN, LIGHT, LIGHT)),
        Habit("liner", Action.REPLACE, 18, 410, 14, (DUE, FAR, DUE)),
        Habit("cloth", Action.INSPECT, 3, 151, 4, (LIGHT,)),
        Habit("cloth", Action.WASH, 20, 410, 30, (DUE, FAR)),
        Habit("dome", Action.INSPECT, 10, 412, 2, (LIGHT, CLEAN)),
        Habit("dome", Action.WASH, 10, 408, 8, (LIGHT, CLEAN)),
        Habit("diffuser", Action.WASH, 10, 408, 8, (LIGHT, CLEAN)),
        Habit("head", Action.CLEAN, 28, 390, 26, (LIGHT,)),
        Habit("hose", Action.INSPECT, 185, 240, 50, (CLEAN,)),
        Habit("wand", Action.INSPECT, 185, 240, 50, (CLEAN,)),
        Habit("cut-out", Action.INSPECT, 185, 240, 50, (CLEAN,)),
        Habit("cord", Action.INSPECT, 85, 355, 15, (CLEAN,)),
        Habit("ports", Action.INSPECT, 150, 380, 50, (CLEAN,)),
        Habit("tools", Action.CLEAN, 90, 385, 25),
        Habit("vent", Action.INSPECT, 150, 380, 50, (CLEAN,)),
    )
    yield story.looked(TUB, 2, 18, "cloth", Action.WASH, DUE)
