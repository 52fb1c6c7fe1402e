"""What has to be true before hands go near: the gates of a sitting, and the steps behind them."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from uuid import UUID

from care.bench.pieces import Piece
from care.bench.sites import Site
from care.bench.steps import (
    DANGER,
    DONE,
    GATE,
    SKIP,
    Step,
    StepKind,
    danger_in,
    make,
)
from care.content import Book
from care.kinds import Archetype
from care.named import NamedCaution


def gates(site: Site, book: Book) -> Iterator[Step]:
    """Make safe, then every gate that an opening or a card of this machine names, once; those of dangers first."""
    apart = any(part.comes_out or part.slot.opening for part in site.parts)
    yield gate(
        site,
        site.kind.make_safe,
        book,
        site.kind.place,
        *([book.cautions[NamedCaution.ZONES].text] if apart else []),
    )
    named = dict.fromkeys(key for part in site.parts for key in _named_by(part, site.kind))
    for key in sorted(named, key=lambda key: not book.cautions[key].dangers):
        if book.cautions[key].gate and key != site.kind.make_safe:
            yield gate(site, key, book)


def gate(site: Site, key: str, book: Book, *more: str) -> Step:
    """One gate: what its caution says, and more; its answers are yes, no, and the dangers it may be told of."""
    text = (book.cautions[key].text, *more)
    answers = (DONE, SKIP, *(f"{DANGER}{danger}" for danger in book.cautions[key].dangers))
    return replace(make(_gate_key(site, key), StepKind.GATE, site.job.machine_id, text), answers=answers)


def _gate_key(site: Site, key: str) -> str:
    return f"{site.prefix}{GATE}{key}"


def behind_gates(sites: Sequence[Site], steps: Sequence[Step], book: Book) -> list[Step]:
    """The steps, each only where its gates were passed: the one that makes its machine safe, any at which a danger can
    be told, and those that its own part or opening names. A look that tells of a danger ends what comes after it.
    """
    there = {step.key for step in steps if step.kind is StepKind.GATE}
    by_machine = {site.job.machine_id: site for site in sites}
    of_all = [key for key, caution in book.cautions.items() if caution.dangers]
    made = []
    looks: dict[UUID, tuple[str, ...]] = {}
    for step in steps:
        site = by_machine[step.machine_id]
        named = (site.kind.make_safe, *of_all, *_named_at(site, step))
        before = dict.fromkeys(key for one in named if (key := _gate_key(site, one)) in there)
        halted = looks.get(step.machine_id, ())
        held = replace(step, needs=(*before, *step.needs), halted_by=halted)
        made.append(step if step.kind is StepKind.GATE else held)
        if step.kind is StepKind.LOOK and any(map(danger_in, step.answers)):
            looks[step.machine_id] = (*halted, step.key)
    return made


def _named_at(site: Site, step: Step) -> tuple[str, ...]:
    """The cautions of the opening and of the part that a step is about."""
    way = site.kind.opening(step.opening).cautions if step.opening else ()
    about = (_named_by(part, site.kind) for part in (*site.parts, *site.handed) if part.slot.key == step.slot)
    return (*way, *(key for named in about for key in named))


def _named_by(part: Piece, kind: Archetype) -> tuple[str, ...]:
    """The cautions of a part's opening and of all that is done to it."""
    way = kind.opening(part.slot.opening).cautions if part.slot.opening else ()
    mine = (rule for rule in part.slot.rules if rule.action in part.actions)
    return (*way, *(key for rule in mine for key in rule.card.cautions))
