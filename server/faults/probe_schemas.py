"""What the API says of what to look at next: its gates, its answers, why it."""

from __future__ import annotations

from care.book import load_book
from care.faults.case import Case
from care.faults.hands import Hands
from care.faults.next_check import Next
from care.faults.verdict import Assessment
from server.base.schema import Schema


class AnswerOut(Schema):
    """One answer that can be given."""

    key: str
    words: str
    picture: str


class GateDangerOut(Schema):
    """A danger that may be told at a gate instead, in the words of who sees it."""

    key: str
    seen: str


class GateOut(Schema):
    """A caution before a check; a gate must be acknowledged, or what is told instead ends the search there."""

    key: str
    text: str
    gate: bool
    dangers: list[GateDangerOut]


class NextOut(Schema):
    """A check that can be made: how, what it needs, what it would tell."""

    key: str
    name: str
    how: str
    role: str
    station: str
    answers: list[AnswerOut]
    minutes: float
    wait_min: float
    undo: str
    tools: list[str]
    cautions: list[GateOut]
    live: bool
    gauge: bool
    bits: float
    proof: float
    of: str
    why: str
    again: bool


def _gate(key: str) -> GateOut:
    book = load_book()
    caution = book.cautions[key]
    dangers = [GateDangerOut(key=danger, seen=book.dangers[danger].seen) for danger in caution.dangers]
    return GateOut(key=key, text=caution.text, gate=caution.gate, dangers=dangers)


def next_out(one: Next, case: Case, hands: Hands, why: str) -> NextOut:
    """A check that can be made, why it comes, and the tools this household takes to it."""
    check, at = one.probe.check, one.probe.at
    book = load_book()
    undo = one.probe.opening.undo if one.probe.opening and one.minutes > check.minutes else ""
    return NextOut(
        key=one.probe.key,
        name=one.probe.name,
        how=check.how,
        role=at.role,
        station=at.station.key if at.station else "",
        answers=[AnswerOut.model_validate(o) for o in check.outcomes],
        minutes=round(one.minutes, 1),
        wait_min=one.wait_min,
        undo=undo,
        tools=[(tool.at_hand(hands.home.tools) or tool).name for tool in map(book.tools.__getitem__, check.tools)],
        cautions=[_gate(key) for key in one.gates],
        live=bool(check.live),
        gauge=check.gauge,
        bits=round(one.bits, 3),
        proof=round(one.proof, 3),
        of=case.subject.suspect(one.of).name if one.of else "",
        why=why,
        again=one.again,
    )


def _why(one: Next, now: Assessment) -> str:
    """Why it comes: to be safe, before a part is bought or a repairer asked, after it is gone; or by the odds."""
    if one.probe.key not in now.verdict.looks:
        return one.why
    if now.verdict.behind:
        return "behind"
    return "safe" if any(tell.stops for tell in one.probe.check.tells) else "before"
