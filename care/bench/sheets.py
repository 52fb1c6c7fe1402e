"""From chosen tasks of one machine or several to the ordered steps of one sitting.

A sitting makes each machine safe, does what is dry and dirty, then hair, then looks while it is open; then goes to the
sink once with all that gets wet, longest drying first; then wipes, refits in reverse, closes, proves. An opening stays
open over the sink only while a part of it is there: what is complete is closed at once. Every step changes the state of
an item or of an opening, or yields evidence. What goes further into a machine than the household does is handed over.
"""

from collections.abc import Callable, Collection, Iterable, Iterator, Sequence
from dataclasses import replace
from itertools import groupby

from care.bench.gates import behind_gates, gate, gates
from care.bench.links import linked
from care.bench.pieces import Piece, pieces, refits, wet
from care.bench.sites import Group, Site, closed, last_screws, left_untouched, opened, proof, shut, tried
from care.bench.steps import GATE, SITTINGS, Chosen, Job, Sheet, Step, StepKind, Tail, make
from care.bench.work import bench_work, put_back, refit, sink_work
from care.content import Book
from care.errors import require
from care.household import AtTheBench
from care.kinds import Archetype
from care.named import NamedCaution
from care.vocabulary import Action

EVERYTHING = AtTheBench()
"""A household that does everything itself and of which nothing is known."""
REFIT_MIN = 2.0
"""What it takes to feel whether a part is dry and to put it in [min]. Ours."""


def build(jobs: Iterable[Job], book: Book, home: AtTheBench = EVERYTHING) -> Sheet:
    """The clean-and-rack sitting for the chosen tasks. Raises `InvalidValue` for none, a task or a machine twice."""
    chosen = list(jobs)
    require(any(job.chosen for job in chosen), "tasks", "none", "at least one task")
    ids = [job.machine_id for job in chosen]
    require(len(ids) == len(set(ids)), "machines", "a machine twice", "each machine once")
    stands = [_stand(job, f"{n}." if len(chosen) > 1 else "", home) for n, job in enumerate(chosen, start=1)]
    ordered = sorted(stands, key=lambda site: wet(site.parts))
    dry, through_sink = ([s for s in ordered if wet(s.parts) is at_sink] for at_sink in (False, True))
    steps = [
        *(step for site in dry for step in (*_start(site, book), *_end(site, book))),
        *(step for site in through_sink for step in _start(site, book)),
        *_sink(through_sink),
        *(step for site in reversed(through_sink) for step in _end(site, book)),
    ]
    steps = behind_gates(ordered, steps, book)
    tools = _tools(ordered)
    at_hand = {key: book.tools[key].at_hand(home.tools) for key in tools if key in book.tools}
    kinds = {job.machine_id: job.archetype for job in chosen}
    return Sheet(
        {job.archetype.key: job.archetype.version for job in chosen},
        SITTINGS[0],
        sum(site.kind.hands_on_min((p.slot.key, a) for p in site.parts for a in p.actions) for site in stands),
        linked(_for_home(step, kinds[step.machine_id], home) for step in steps),
        tools,
        tuple(key for key, has in at_hand.items() if has is None),
        {key: has.key for key, has in at_hand.items() if has is not None and has.key != key},
    )


def _stand(job: Job, prefix: str, home: AtTheBench) -> Site:
    parts = pieces(job, prefix)
    handed = tuple(part for part in parts if not _reached(part, job.archetype, home))
    mine = [part for part in parts if part not in handed]

    def group(part: Piece) -> str:
        pair = {part.slot.key, part.other.slot.key} if part.other else {part.slot.key}
        return part.slot.opening or f"slot:{min(pair)}"

    first = {key: min(p.order for p in mine if group(p) == key) for key in map(group, mine)}
    by_group = sorted(mine, key=lambda p: (first[group(p)], group(p), p.order, p.slot.key))
    groups = tuple(Group(members[0].slot.opening, members) for members in _grouped(by_group, group))
    return Site(job, prefix, groups, handed)


def _grouped(parts: Sequence[Piece], key: Callable[[Piece], str]) -> Iterator[tuple[Piece, ...]]:
    for _, members in groupby(parts, key=key):
        yield tuple(members)


def _reached(part: Piece, kind: Archetype, home: AtTheBench) -> bool:
    return home.opens(kind.opening(part.slot.opening) if part.slot.opening else None)


def _start(site: Site, book: Book) -> Iterator[Step]:
    """Safe, then all that is done with dry hands; what is complete is closed at once."""
    yield from gates(site, book)
    for group in site.groups:
        if _is_wipe(group) and wet(site.parts):
            continue
        yield from opened(site, group)
        for part in group.parts:
            yield from bench_work(part)
        if not wet(group.parts) and not _is_live(site, group):
            yield from closed(site, group)


def _is_live(site: Site, group: Group) -> bool:
    """Whether closing it brings power back: that waits until all else is shut, and no hand is in there."""
    return group.opening is not None and site.kind.opening(group.opening).live


def _sink(stands: Sequence[Site]) -> Iterator[Step]:
    """One way to the sink for all machines: what dries longest is washed first."""
    parts = [part for site in stands for part in site.parts]
    for part in sorted(parts, key=lambda p: -(p.drying.reference_h if p.drying else 0.0)):
        yield from sink_work(part)


def _end(site: Site, book: Book) -> Iterator[Step]:
    """Dry wipes, everything back in reverse, closed, the machine's own counters told; then proven."""
    if wet(site.parts):
        for group in site.groups:
            if _is_wipe(group):
                yield from bench_work(group.parts[0])
                yield from put_back(group.parts[0])
        for group in reversed(site.groups):
            if wet(group.parts) and not _is_live(site, group):
                yield from closed(site, group)
    for group in site.groups:
        if _is_live(site, group):
            yield from closed(site, group)
    yield from (_hand_over(part, site.kind, action) for part in site.handed for action in part.actions)
    yield from _counters(site)
    yield from proof(site, book)
    yield from last_screws(site)


def _is_wipe(group: Group) -> bool:
    """A dry wipe by itself, which comes after the wet work so that nothing drips on it again."""
    return group.opening is None and group.parts[0].actions == (Action.WIPE,) and not wet(group.parts)


def _for_home(step: Step, kind: Archetype, home: AtTheBench) -> Step:
    """The step with the cautions that this household needs."""
    cautions = [home.caution(key) for key in step.cautions]
    screwed = step.kind is StepKind.OPEN and step.opening and kind.opening(step.opening).screws
    if home.little_ones and (screwed or NamedCaution.BLADE in step.cautions):
        cautions.append(NamedCaution.SMALL_PARTS)
    return replace(step, cautions=tuple(cautions)) if tuple(cautions) != step.cautions else step


def _hand_over(part: Piece, kind: Archetype, action: Action) -> Step:
    """What goes further than the household does: done by the maker, a shop or a handy friend, and recorded here."""
    way = kind.opening(part.slot.opening or "")
    how = "the body is opened" if way.strip_down else "screws are undone"
    text = (
        f"This is behind the {way.name}, where {how}: further than you said you go.",
        "Give it to the maker, a shop or somebody able, and answer when it is done.",
    )
    new = part.new_item_id if action is Action.REPLACE else None
    key = f"{part.prefix}{part.slot.key}.{action}.{Tail.HAND_OVER}"
    step = part.about(make(key, StepKind.HAND_OVER, part.machine_id, text), action)
    return replace(step, is_task=True, new_item_id=new)


def _tools(stands: Sequence[Site]) -> tuple[str, ...]:
    """Every tool that the openings and cards of what is done here name, once, in the order of need."""
    named: list[str] = []
    for site in stands:
        for part in site.parts:
            named += site.kind.opening(part.slot.opening).tools if part.slot.opening else ()
            for action in part.actions:
                named += part.slot.rule(action).card.tools
    return tuple(dict.fromkeys(named))


def with_extra(sheet: Sheet, job: Job, answered: Collection[str]) -> Sheet:
    """The sheet with the one task of `job` as a step of its own, before what it lies behind is closed.

    `answered` are the keys of the steps that were answered. Raises `InvalidValue` where the sheet has it, or where
    nothing is open there any more.
    """
    [piece] = pieces(job, "")
    machine, opening, action = job.machine_id, piece.slot.opening, piece.main
    mine = [step for step in sheet.steps if step.machine_id == machine]
    require(bool(mine), "machine_id", machine, "a machine of this sheet")
    prefix = next((step.key.split(GATE)[0] for step in mine if step.kind is StepKind.GATE), "")
    key = f"{prefix}{piece.slot.key}.{action}.{Tail.EXTRA}"
    require(all(step.key != key for step in mine), "action", action, "something that is not on this sheet yet")
    shuts = [step for step in mine if _ends(step, opening)]
    ends = [] if any(step.key in answered for step in shuts) else [sheet.steps.index(step) for step in shuts]
    if opening is None and not any(step.kind is StepKind.POWER for step in mine):
        ends = [sheet.steps.index(mine[-1]) + 1]
    require(bool(ends), "slot", piece.slot.name, "a part that still lies open")
    last = max((n for n, step in enumerate(sheet.steps) if step.key in answered), default=-1)
    card = piece.slot.rule(action).card
    way = f"{prefix}{opening}.{Tail.OPEN}" if opening else ""
    beside = shuts[0] if shuts else mine[-1]  # whatever keeps that from being done keeps this, too
    gates = tuple(one for one in beside.needs if one.startswith(f"{prefix}{GATE}"))
    needs = (*gates, *((way,) if way in {step.key for step in mine} else ()))
    step = piece.about(make(key, StepKind.CLEAN_IN_PLACE, machine, card.how), action)
    step = replace(step, cautions=card.cautions, each=card.each, needs=needs, halted_by=beside.halted_by)
    at = max(last + 1, ends[0])
    minutes = sheet.minutes + card.effort_min
    return replace(sheet, steps=linked((*sheet.steps[:at], step, *sheet.steps[at:])), minutes=minutes)


def _ends(step: Step, opening: str | None) -> bool:
    """Whether this is where something has to be done by: its opening closes, or the machine is tried."""
    if opening is not None:
        return step.kind is StepKind.CLOSE and step.opening == opening
    return step.kind is StepKind.POWER


SET_BACK = "Set the machine's own counter of this part back, or its list goes on nagging. Ours has moved already."
TICK_OFF = (
    "Where its own list asks for these cleanings, tick them off there, or it goes on nagging. The counters of their "
    "life stay as they are: the parts are the same."
)


def _counters(site: Site) -> Iterator[Step]:
    """What the machine's own list has to be told: of each part that is new, or of which it counts what was done; and in
    one go of those that were only cleaned while it counts their life.
    """
    counted = [(part, rule) for part in site.parts if (rule := part.slot.counted_rule)]
    for part, rule in counted:
        if rule.action in part.actions:
            step = part.step(Tail.COUNTER, StepKind.COUNTER, (SET_BACK,))
            yield replace(step, needs=(part.key(Tail.DO),))
    cleaned = [
        p for p, r in counted if r.action not in p.actions and p.actions not in ((Action.INSPECT,), (Action.SWAP,))
    ]
    if cleaned:
        step = make(f"{site.prefix}{Tail.LIST}", StepKind.COUNTER, site.job.machine_id, (TICK_OFF,))
        yield replace(step, each=tuple(part.item.name for part in cleaned))


def build_refit(jobs: Iterable[Job], book: Book) -> Sheet:
    """The refit-and-test sitting for parts from the rack: each felt for damp, then put in, closed, proven.

    Each part is given as a task of its slot, whatever its action. Raises `InvalidValue` for none.
    """
    chosen = list(jobs)
    require(any(job.chosen for job in chosen), "items", "none", "at least one part from the rack")
    steps: list[Step] = []
    stands: list[Site] = []
    minutes = 0.0
    for n, job in enumerate(chosen, start=1):
        site = _refit_stand(job, f"{n}." if len(chosen) > 1 else "")
        stands.append(site)
        steps.append(gate(site, job.archetype.make_safe, book))
        for group in site.groups:
            steps += _refitted(site, group)
        steps += (*_refit_proof(site, book), *last_screws(site))
        minutes += len(site.parts) * REFIT_MIN
        minutes += sum(job.archetype.opening(g.opening).setup_min for g in site.groups if g.opening)
    made_of = {job.archetype.key: job.archetype.version for job in chosen}
    return Sheet(made_of, SITTINGS[1], minutes, linked(behind_gates(stands, steps, book)))


def _refit_stand(job: Job, prefix: str) -> Site:
    """What comes from the rack is away already, whatever else is."""
    job = replace(job, off=job.off | {task.slot for task in job.chosen})
    parts = [_from_rack(job, task, prefix) for task in job.chosen]
    ordered = sorted(parts, key=lambda p: (p.slot.opening or "", p.door is not None, p.slot.refit_order))
    groups = tuple(
        Group(members[0].slot.opening, members) for members in _grouped(ordered, lambda p: p.slot.opening or "")
    )
    return Site(job, prefix, groups, ())


def _from_rack(job: Job, task: Chosen, prefix: str) -> Piece:
    slot = job.archetype.slot(task.slot)
    way = job.archetype.opening(slot.opening) if slot.opening else None
    door = way if way and way.part == slot.key else None
    return Piece(job.machine_id, prefix, slot, door, (task.action,), task.item)


def _refitted(site: Site, group: Group) -> Iterator[Step]:
    yield from opened(site, group) if group.door is None else ()
    untouched = left_untouched(site, group)
    for part in group.parts:
        yield from refit(part, untouched if part.door else ())
    yield from shut(site, group)


def _refit_proof(site: Site, book: Book) -> Iterator[Step]:
    """Power again only when every part it needs is back in."""
    safe = book.cautions[site.kind.make_safe]
    needed = {slot.key for slot in site.kind.slots if slot.needed_to_run}
    lacks = site.job.off & needed - {part.slot.key for part in site.parts}
    if safe.power and not lacks:
        yield from tried(site, safe, tuple(refits(part) for part in site.parts if part.slot.key in needed))
