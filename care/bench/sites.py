"""One machine of a sitting: its openings undone and closed around what is done behind them, then tried."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from care.bench.openings import COUNT_IN, NO_CLICK, closing, closing_words, counted, opening_words, without_words
from care.bench.pieces import Other, Piece, places, refits, rests
from care.bench.steps import (
    Gap,
    Job,
    Step,
    StepKind,
    Tail,
    make,
)
from care.bench.work import put_back
from care.content import Book, Caution
from care.kinds import Archetype
from care.vocabulary import Action


@dataclass(frozen=True, slots=True)
class Group:
    """The parts behind one opening, or those that need none (`opening` None)."""

    opening: str | None
    parts: tuple[Piece, ...]

    @property
    def door(self) -> Piece | None:
        """The part that comes off with the opening and is itself worked on."""
        return next((part for part in self.parts if part.door), None)


@dataclass(frozen=True, slots=True)
class Site:
    """One machine of a sitting."""

    job: Job
    prefix: str
    groups: tuple[Group, ...]
    handed: tuple[Piece, ...]

    @property
    def parts(self) -> list[Piece]:
        """All parts that are worked on here."""
        return [part for group in self.groups for part in group.parts]

    @property
    def kind(self) -> Archetype:
        """The kind of machine."""
        return self.job.archetype

    def key(self, of: str, tail: Tail) -> str:
        """The key of a step that is about one of its openings."""
        return f"{self.prefix}{of}.{tail}"


def opened(site: Site, group: Group) -> Iterator[Step]:
    """The step that undoes an opening, unless nothing is undone or it is open already."""
    if group.opening is None or _stands_open(site, group):
        return
    way, door = site.kind.opening(group.opening), group.door
    key = site.key(way.key, Tail.OPEN)
    step = counted(make(key, StepKind.OPEN, site.job.machine_id, opening_words(way)), way, key)
    step = replace(step, opening=way.key, cautions=way.cautions, each=way.each, drawing=way.drawing)
    yield Other(door.item.id, door.item.name, door.slot.key).on(step) if door else step


def closed(site: Site, group: Group) -> Iterator[Step]:
    """All parts of an opening back in their order of putting in, its own part last; then it is closed."""
    untouched = left_untouched(site, group)
    for part in sorted(group.parts, key=lambda p: (p.door is not None, p.slot.refit_order)):
        yield from put_back(part, untouched if part.door else ())
    yield from shut(site, group)


def left_untouched(site: Site, group: Group) -> tuple[str, ...]:
    """What lies behind an opening besides, in the order of putting in: each is ticked off before it closes."""
    mine = {part.slot.key for part in site.parts if part.actions != (Action.INSPECT,)} | site.job.off
    behind = (slot for slot in site.kind.parts(site.job.features) if group.opening and slot.opening == group.opening)
    left = [slot for slot in behind if slot.removable and slot.key not in mine and slot.needed_to_run]
    left.sort(key=lambda slot: slot.refit_order)
    return tuple(f"{slot.name}: {slot.test[0].lower()}{slot.test[1:]}" if slot.test else slot.name for slot in left)


def shut(site: Site, group: Group) -> Iterator[Step]:
    """Close an opening, unless the part that closes it does so when it goes back."""
    if group.opening is not None and group.door is None and not _stands_open(site, group):
        way = site.kind.opening(group.opening)
        machine, opened, away = site.job.machine_id, site.key(way.key, Tail.OPEN), _away(site, group)
        gaps = tuple(place for _, place in away)
        step = make(site.key(way.key, Tail.CLOSE), StepKind.CLOSE, machine, closing_words(way))
        yield replace(closing(step, way, opened, left_untouched(site, group)), whole=gaps)
        if away:
            words = without_words(way, [name for name, _ in away])
            step = make(site.key(way.key, Tail.CLOSE_WITHOUT), StepKind.CLOSE, machine, words)
            yield replace(closing(step, way, opened, ()), missing=gaps)


def _away(site: Site, group: Group) -> list[tuple[str, Gap]]:
    """The parts behind an opening that may be away when it is closed, washed, on the rack or lost: names and places."""
    off, parts = site.job.off, {part.slot.key: part for part in group.parts}
    washed = [part for part in group.parts if part.drying and part.slot.key not in off]
    behind = (slot for slot in site.kind.slots if slot.opening == group.opening and slot.needed_to_run)
    return [
        *((part.slot.name, place) for part in washed for place in places(part)),
        *((slot.name, refits(parts.get(slot.key))) for slot in behind if slot.key in off),
    ]


def last_screws(site: Site) -> Iterator[Step]:
    """What waits until it was tried with power: the last screws."""
    for group in site.groups:
        way = site.kind.opening(group.opening) if group.opening else None
        if way and way.last and not _stands_open(site, group):
            gaps = tuple(place for _, place in _away(site, group))
            step = make(site.key(way.key, Tail.LAST), StepKind.CLOSE, site.job.machine_id, (way.last, COUNT_IN))
            step = replace(step, opening=way.key, seat=way.seat or NO_CLICK, whole=gaps, title="The last screws")
            yield counted(step, way, site.key(way.key, Tail.OPEN))


def _stands_open(site: Site, group: Group) -> bool:
    """Whether the part that closes an opening is away already: on the rack, or lost."""
    return group.opening is not None and site.kind.opening(group.opening).part in site.job.off


def proof(site: Site, book: Book) -> Iterator[Step]:
    """Power again, where something was opened or out: only once every part it needs is in."""
    safe, parts = book.cautions[site.kind.make_safe], site.parts
    opened = safe.on_again or any(part.comes_out or part.slot.opening for part in parts)
    lacks = site.job.off & {slot.key for slot in site.kind.slots if slot.needed_to_run}
    if parts and opened and safe.power and not lacks:
        yield from tried(site, safe, tuple(place for part in parts for place in places(part)))


def tried(site: Site, safe: Caution, needed: tuple[Gap, ...]) -> Iterator[Step]:
    """Power once all is back; also once only that is away which it runs without: then that is said."""
    parts = {part.slot.key: part for part in site.parts if not part.slot.needed_to_run}
    off = [slot for slot in site.kind.slots if slot.key in site.job.off and not slot.needed_to_run]
    away = [(p.slot.name, rests(p)) for p in parts.values() if p.drying and p.slot.key not in site.job.off]
    away += [(slot.name, refits(parts.get(slot.key))) for slot in off]
    gaps = tuple(place for _, place in away)
    at, words = site.job.machine_id, f"{safe.ready}: {safe.power[0].lower()}{safe.power[1:]}"
    yield replace(make(f"{site.prefix}{Tail.POWER}", StepKind.POWER, at, (words,)), whole=(*needed, *gaps))
    if away:
        still = f"Closed, but still away: {', '.join(name for name, _ in away)}. What needs that waits."
        step = make(f"{site.prefix}{Tail.POWER_WITHOUT}", StepKind.POWER, at, (still, safe.power))
        yield replace(step, whole=needed, missing=gaps)
