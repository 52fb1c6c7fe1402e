"""Lines of a device as they come: late, twice, in any order, some of them spoilt. Each counts once or is named."""

import json
import logging
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from enum import StrEnum
from typing import Any
from uuid import uuid5

from django.db import DatabaseError, transaction
from pydantic import ValidationError

from care.errors import CareError, InvalidValue
from care.heard.sense import CLOCK_SKEW
from server.base import clock
from server.base.http import words_of
from server.devices import lines
from server.devices.models import Device, Held, Received
from server.devices.services import journal_of_device
from server.devices.taking import Doubted, Heard, take_line
from server.household.models import Member
from server.household.writes import writing

log = logging.getLogger(__name__)
MOST_LINES = 1000
"""So many lines of one post are read; the rest is to be sent again."""
AT_ONCE = 25
"""So many are recorded in one transaction, so that nobody else waits long to write."""


class Status(StrEnum):
    """What became of a line."""

    TAKEN = "taken"
    KNOWN = "known"
    """It came before, or says nothing new."""
    HELD = "held"
    """It does not count before somebody was asked."""
    REFUSED = "refused"
    """Sent again it is refused again."""
    AGAIN = "again"
    """It could not be read or kept now: send it again."""


@dataclass(frozen=True, slots=True)
class Answer:
    """What became of the `line`-th line (from 1), with the field that is wrong, what is wrong with it, the way out."""

    line: int
    id: str
    status: Status
    field: str = ""
    problem: str = ""
    fix: str = ""


def voice_of(device: Device) -> Member:
    """Who records what a device says: nobody of the household, with the right of somebody who helps."""
    return Member(household=device.household, name=device.name, role=Member.Role.HELPER)


def take_in(device: Device, sent: Sequence[Any], most: int = MOST_LINES) -> list[Answer]:
    """Take in lines of a device that may post, in their order, at most so many; gives what became of each."""
    answers: list[Answer] = []
    read, left = sent[:most], sent[most:]
    for start in range(0, len(read), AT_ONCE):
        some = list(enumerate(read[start : start + AT_ONCE], start + 1))
        try:
            with writing(), transaction.atomic():
                these = [_one(device, number, line) for number, line in some]
                Device.everything.filter(pk=device.pk).update(seen_at=clock.now())
        except DatabaseError as error:  # a full disk, say: none of these is kept
            log.warning("lines of a device could not be kept: %s", error)
            these = [_again(number, line, "It could not be kept.") for number, line in some]
        answers += these
    after = enumerate(left, len(read) + 1)
    return answers + [_again(n, line, f"Only {most} lines are read at once.") for n, line in after]


def _again(number: int, sent: Any, problem: str) -> Answer:
    return Answer(number, _id_of(sent), Status.AGAIN, problem=problem, fix="Send it again.")


def _id_of(sent: Any) -> str:
    given = sent.get("id") if isinstance(sent, dict) else None
    return given[:64] if isinstance(given, str) else ""


def _one(device: Device, number: int, sent: Any) -> Answer:
    """One line, in a transaction of its own within that of its batch: a bad one takes no good one with it."""
    line_id = _id_of(sent)
    try:
        line = _read(device, sent)
        known = device.lines.filter(line_id=line.id).first()
        if known is not None:
            return _known(known, number, line)
        with transaction.atomic():
            return Answer(number, line.id, *_take(device, line))
    except CareError as error:
        field, said = error.field or "", error.detail.removeprefix(f"{error.field}: ")
        return Answer(number, line_id, Status.REFUSED, field, said, error.fix)
    except DatabaseError:
        raise
    except Exception:  # a fault of ours takes no other line with it
        log.exception("a line of a device could not be taken in")
        return _again(number, sent, "It could not be taken in; the terminal that runs Yperon says more.")


def _read(device: Device, sent: Any) -> lines.AnyLine:
    try:
        line = lines.LINES.validate_json(json.dumps(sent)) if isinstance(sent, dict) else None
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        field = ".".join(str(key) for key in first["loc"][1:]) or "kind"
        detail, fix = words_of(field, first)
        raise InvalidValue(detail, field=field, fix=fix) from error
    if line is None:
        raise InvalidValue("This is no JSON object.", field="", fix="Write one JSON object a line.")
    may = lines.MAY[device.kind]
    if line.kind not in may:
        raise InvalidValue(
            f"kind: a token of {device.get_kind_display()} does not post {line.kind!r}",
            field="kind",
            fix=f"It may post {' and '.join(may)}; make another token for the rest.",
        )
    _refuse_future(line)
    return line


def _refuse_future(line: lines.AnyLine) -> None:
    end = line.at + timedelta(minutes=line.minutes if isinstance(line, lines.RunLine) else 0)
    if end > clock.now() + CLOCK_SKEW:
        raise InvalidValue(
            f"at: {line.at.isoformat()} is in the future", field="at", fix="Set the device's clock, and send it again."
        )


def _known(row: Received, number: int, line: lines.AnyLine) -> Answer:
    if row.content == lines.content_of(line):
        return Answer(number, line.id, Status.KNOWN)
    raise InvalidValue(
        "id: another line came under this id", field="id", fix="Give each line an id of its own, and keep it."
    )


def _take(device: Device, line: lines.AnyLine) -> tuple[Status, str, str]:
    """Record a line that did not come before, or hold it apart; gives what became of it."""
    heard = Heard(voice_of(device), device, uuid5(device.pk, line.id))
    try:
        with transaction.atomic():
            entry = take_line(heard, line)
        status, why = Status.TAKEN if entry else Status.KNOWN, ""
    except Doubted as doubt:
        _hold(heard, line, doubt)
        status, why = Status.HELD, doubt.why
    Received.everything.create(
        household_id=device.household_id,
        device=device,
        line_id=line.id,
        content=lines.content_of(line),
        kind=line.kind,
        at=line.at,
        total=line.total_min if isinstance(line, lines.RunLine) and status is Status.TAKEN else None,
    )
    return status, "", why


def _hold(heard: Heard, line: lines.AnyLine, doubt: Doubted) -> None:
    device = heard.device
    journal_of_device(heard.by, device.machine_id).tell(
        Held,
        line.at,
        entry_id=heard.entry_id,
        device_id=device.pk,
        name=device.name,
        kind=device.kind,
        machine=device.machine,
        place=device.place,
        doubt=doubt.doubt,
        why=doubt.why[:300],
        line=line.model_dump(mode="json"),
    )
