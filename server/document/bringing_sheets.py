"""Sheets and cases of a document, brought in."""

from collections.abc import Sequence
from typing import Any, TypeVar

from server.bench.models import Sheet, SheetEvent
from server.document import format as doc
from server.faults.models import Case, CaseEvent
from server.household.models import Household
from server.logbook.scoping import by_ids


def bring_sheets(household: Household, document: doc.Document) -> tuple[int, list[str]]:
    """Sittings that are added, or go on; and words for those that went on otherwise here."""
    some, added, stays = _that_go_on(Sheet, household, document.sheets)
    for one in some:
        values = one.model_dump(mode="json", exclude={"id", "machines", "events", "made_by"})
        values |= {"made_at": one.made_at, "ended_at": one.ended_at, "made_by_id": one.made_by}
        made, _ = Sheet.everything.update_or_create(pk=one.id, household=household, defaults=values)
        made.machines.set(one.machines)
        _events(SheetEvent, household, "sheet", made, one.events)
    return added, [f"The sitting of {one.made_at:%Y-%m-%d} went on otherwise here: it stays as it is." for one in stays]


def bring_cases(household: Household, document: doc.Document) -> tuple[int, list[str]]:
    """Cases that are added, or go on; and words for those that went on otherwise here."""
    some, added, stays = _that_go_on(Case, household, document.cases)
    for one in some:
        values = one.model_dump(mode="json", exclude={"id", "events", "opened_by"})
        values |= {"opened_at": one.opened_at, "closed_at": one.closed_at, "opened_by_id": one.opened_by}
        made, _ = Case.everything.update_or_create(pk=one.id, household=household, defaults=values)
        _events(CaseEvent, household, "case", made, one.events)
    return added, [
        f"The search for a fault of {one.opened_at:%Y-%m-%d} went on otherwise here: it stays." for one in stays
    ]


P = TypeVar("P", doc.SheetPart, doc.CasePart)


def _that_go_on(model: Any, household: Household, parts: Sequence[P]) -> tuple[list[P], int, list[P]]:
    """What is not here yet or goes on from the answers that are here, how many of these are new; and what is open no
    more, or has other answers here, where the file has more of them.
    """
    known = model.objects.of(household.pk).prefetch_related("events")
    here = {row.pk: row for rows in by_ids(known, [one.id for one in parts]) for row in rows}
    some, stays = list[P](), list[P]()
    for one in parts:
        row = here.get(one.id)
        mine = [event.pk for event in sorted(row.events.all(), key=lambda event: event.number)] if row else []
        goes_on = row is None or row.status == model.Status.OPEN
        if goes_on and [event.id for event in one.events[: len(mine)]] == mine:
            some.append(one)
        elif len(one.events) > len(mine):
            stays.append(one)
    return some, sum(one.id not in here for one in some), stays


def _events(model: Any, household: Household, name: str, of: Any, events: Sequence[Any]) -> None:
    here = of.events.count()
    model.everything.bulk_create(
        model(household=household, number=number, by_id=one.by, **{name: of}, **one.model_dump(exclude={"by"}))
        for number, one in enumerate(events)
        if number >= here
    )
