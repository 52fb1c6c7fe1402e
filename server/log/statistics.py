"""What a household likes to know of its year: minutes at the bench, parts renewed, what helped."""

from collections import Counter, defaultdict
from dataclasses import dataclass
from datetime import date, datetime

from dateutil.relativedelta import relativedelta

from care.vocabulary import Action
from server.bench.took import sittings_since
from server.household.models import Member
from server.household.services import today_of, zone_of
from server.logbook.services import standing
from server.machines.models import CaseRecord, Run, Service

MONTHS = 12


@dataclass(frozen=True, slots=True)
class Month:
    """A month: sittings and their minutes, hours that machines ran; how often a part was emptied, cleaned or swapped
    (`cleaned`), and how often renewed.
    """

    month: date
    sittings: int
    minutes: int
    run_hours: float
    cleaned: int
    renewed: int


@dataclass(frozen=True, slots=True)
class Helped:
    """What put a fault right, and how often."""

    cause: str
    times: int


@dataclass(frozen=True, slots=True)
class Statistics:
    """The last twelve months, this one with them, and what helped."""

    months: tuple[Month, ...]
    helped: tuple[Helped, ...]


def statistics(member: Member) -> Statistics:
    """The last twelve months of a household."""
    zone, today = zone_of(member), today_of(member)
    first = today.replace(day=1) - relativedelta(months=MONTHS - 1)
    since = datetime.combine(first, datetime.min.time(), zone)
    run_s: Counter[date] = Counter()
    for day, seconds in standing(Run.objects.of(member.household_id).filter(day__gte=first)).values_list(
        "day", "run_s"
    ):
        run_s[day.replace(day=1)] += seconds
    did: dict[date, Counter[bool]] = defaultdict(Counter)
    services = standing(Service.objects.of(member.household_id).filter(entry__happened_at__gte=since))
    for at, action in services.exclude(action=Action.INSPECT).values_list("entry__happened_at", "action"):
        did[at.astimezone(zone).date().replace(day=1)][action == Action.REPLACE] += 1
    took: dict[date, list[float]] = defaultdict(list)
    for at, minutes in sittings_since(member, since):
        took[at.astimezone(zone).date().replace(day=1)].append(minutes)
    months = [first + relativedelta(months=n) for n in range(MONTHS)]
    return Statistics(
        months=tuple(
            Month(
                month=month,
                sittings=len(took[month]),
                minutes=round(sum(took[month])),
                run_hours=round(run_s[month] / 3600, 1),
                cleaned=did[month][False],
                renewed=did[month][True],
            )
            for month in months
        ),
        helped=_helped(member),
    )


def _helped(member: Member) -> tuple[Helped, ...]:
    causes: Counter[str] = Counter()
    for causes_found in standing(CaseRecord.objects.of(member.household_id).filter(stand="cured")).values_list(
        "causes", flat=True
    ):
        causes.update(str(one["name"]) for one in causes_found)
    return tuple(Helped(cause, times) for cause, times in causes.most_common(8))
