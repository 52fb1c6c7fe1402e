"""What is done with one part: taken out, looked at, worked on, washed, put back, proven."""

from collections.abc import Iterator
from dataclasses import replace

from care.bench.openings import SEAT, closing, closing_words
from care.bench.pieces import Other, Piece
from care.bench.steps import (
    DAMP,
    DANGER,
    DONE,
    DRY,
    FAIL,
    PASS,
    RENEW,
    SKIP,
    UNSURE,
    Step,
    StepKind,
    Tail,
)
from care.errors import require
from care.named import NamedCaution
from care.parts import Slot
from care.rules import Card, Drying
from care.vocabulary import Action

OFF = "Take it off as the manual shows."


ON = "Fit it where it sat, all the way home."


def bench_work(piece: Piece) -> Iterator[Step]:
    """Out, looked at, and worked on while hands are dry."""
    if piece.actions == (Action.INSPECT,):
        rule = piece.slot.rule(Action.INSPECT)
        yield from _looks(piece, rule.card.how, (), is_task=True)
        return
    needs = (piece.out,) if piece.comes_out else ()
    if needs and not piece.door:
        out = piece.step(Tail.OUT, StepKind.TAKE_OUT, (piece.slot.take_out or OFF,))
        yield replace(out, drawing=piece.slot.drawing)
    if piece.actions != (Action.SWAP,):
        yield from _looks(piece, (), needs)
    for action in piece.actions:
        if action is not Action.SWAP and piece.slot.drying_of(action) is None:
            yield _do(piece, action, needs)
            yield from _until(piece, action)
    if piece.main is Action.SWAP and piece.other is None:
        yield _other_out(piece)


def _looks(piece: Piece, text: tuple[str, ...], needs: tuple[str, ...], *, is_task: bool = False) -> Iterator[Step]:
    """One look for all work that shares its words for what is seen."""
    by_words: dict[tuple[str, ...], list[Action]] = {}
    for action in piece.actions:
        if action is not Action.SWAP:
            by_words.setdefault(tuple(piece.slot.words(_about(piece, action)).values()), []).append(
                _about(piece, action)
            )
    for abouts in by_words.values():
        first = abouts[-1] if piece.main in abouts else abouts[0]
        also = tuple(action for action in abouts if action is not first)
        words = seen_words(piece.slot, first)
        look = piece.step(Tail.LOOK.of(first, _about(piece, piece.main)), StepKind.LOOK, text)
        look = replace(look, needs=needs, answers=(*words, UNSURE), action=first, also=also)
        yield replace(look, found_words=words, is_task=is_task)


def seen_words(slot: Slot, about: Action) -> dict[str, str]:
    """What one may see at a look about a task, by its answer: how far it is, a danger, what else is due."""
    made: dict[str, str] = {}
    for found, text in slot.words(about).items():
        danger = slot.danger(about, found)
        made[f"{DANGER}{danger}" if danger else str(found)] = text
    for find in slot.finds(about):
        made[f"{DANGER}{find.danger}" if find.danger else find.key] = find.words
    return made


def _about(piece: Piece, action: Action) -> Action:
    return piece.slot.rule(action).about or action


def _do(piece: Piece, action: Action, needs: tuple[str, ...]) -> Step:
    card = piece.slot.rule(action).card
    kind = StepKind.CLEAN if piece.comes_out else StepKind.CLEAN_IN_PLACE
    kind = StepKind.RETIRE if action is Action.REPLACE else kind
    ends = (piece.slot.washing.disposal,) if action is Action.REPLACE and piece.slot.washing else ()
    step = piece.step(Tail.DO.of(action, piece.main), kind, (*card.how, *ends))
    return replace(_by_card(step, card), action=action, needs=needs)


def _by_card(step: Step, card: Card) -> Step:
    """The step with what the card says besides how."""
    return replace(step, cautions=card.cautions, wait_min=card.wait_min, each=card.each, drawing=card.drawing)


def _until(piece: Piece, action: Action) -> Iterator[Step]:
    """What has to be true before anybody goes on: there is no other answer to it."""
    card, main = piece.slot.rule(action).card, piece.main
    if card.until:
        step = piece.step(Tail.UNTIL.of(action, main), StepKind.TEST, (card.until,))
        yield replace(step, action=action, needs=(piece.key(Tail.DO.of(action, main)),), answers=(PASS,))


def sink_work(piece: Piece) -> Iterator[Step]:
    """Washed or wiped wet, and on the rack."""
    drying, card = piece.drying, piece.slot.rule(piece.main).card
    if drying is None:
        return
    wash = _dries(_by_card(piece.step(Tail.DO, StepKind.WASH, card.how), card), drying)
    yield replace(wash, needs=(piece.out,), each=_ticked(piece))
    yield from _until(piece, piece.main)
    rack = replace(_dries(piece.step(Tail.RACK, StepKind.RACK, ()), drying), needs=(piece.key(Tail.DO),))
    yield replace(rack, answers=(DONE, DRY)) if _may_go_back(piece) else rack


def _dries(step: Step, drying: Drying) -> Step:
    """The step with how the part dries after it."""
    return replace(step, floor_h=drying.floor_h, drying=drying.key)


def _ticked(piece: Piece) -> tuple[str, ...]:
    """What is ticked off at the sink; where nothing else says when it is rinsed enough, the kind of part does."""
    card, washing = piece.slot.rule(piece.main).card, piece.slot.washing
    wets = piece.main is Action.WASH and not card.until
    return (*card.each, *([washing.until] if wets and washing and washing.until else []))


def _may_go_back(piece: Piece) -> bool:
    """Whether it may be wiped dry and go back at once: no rest is prescribed, and nothing went in for it."""
    return piece.drying is not None and piece.drying.floor_h == 0 and piece.substitute is None


def _other_out(piece: Piece) -> Step:
    """The part on the other side, where nothing else is done to it."""
    require(piece.partner is not None and piece.slot.swaps_with is not None, "tasks", piece.slot.key, "a part to swap")
    assert piece.partner is not None
    step = piece.step(Tail.OUT_OTHER, StepKind.TAKE_OUT, (piece.slot.take_out,))
    return Other(piece.partner.id, piece.partner.name, piece.slot.swaps_with).on(replace(step, needs=(piece.out,)))


def put_back(piece: Piece, untouched: tuple[str, ...] = ()) -> Iterator[Step]:
    """Refit what came out, a dry spare for what is wet, a new part for what was retired; then prove it.

    A part that closes an opening confirms what lies behind it `untouched`.
    """
    do = piece.key(Tail.DO)
    if piece.actions == (Action.INSPECT,):
        return
    if not piece.comes_out:
        yield from _test(piece, Tail.TEST, do)
        return
    if piece.main is Action.SWAP:
        yield from _swap_back(piece)
        return
    swap, out = piece.substitute, (piece.out,)
    instead = (do, SKIP) if swap is not None or piece.drying is not None else None
    if piece.other is not None:  # it changes sides, unless the other one stayed where it is
        yield from _fit(piece, Tail.FIT, untouched, needs=out, only_if=(piece.other.out, SKIP))
        return
    yield from _fit(piece, Tail.FIT, untouched, needs=out, only_if=instead)
    if _may_go_back(piece):
        yield from _fit(piece, Tail.FIT_DRY, untouched, needs=out, only_if=(piece.key(Tail.RACK), DRY))
    if swap is not None:
        yield from _fit(piece, Tail.FIT_OTHER, untouched, needs=(do,), other=swap)


def _fit(
    piece: Piece,
    tail: Tail,
    untouched: tuple[str, ...],
    *,
    needs: tuple[str, ...],
    only_if: tuple[str, str] | None = None,
    other: Other | None = None,
) -> Iterator[Step]:
    """Put a part in, or the `other` one, as closing the opening where it comes off with it; then prove it.

    What lies behind it `untouched` is confirmed before it closes.
    """
    if piece.door:
        step = closing(piece.step(tail, StepKind.CLOSE, closing_words(piece.door)), piece.door, piece.out, untouched)
    else:
        step = piece.step(tail, StepKind.FIT, (piece.slot.put_back or ON,))
        step = replace(step, seat=piece.slot.seat or SEAT, drawing=piece.slot.drawing)
    step = replace(step, needs=needs, only_if=only_if)
    yield other.on(step) if other else step
    yield from _test(piece, Tail.TEST if tail is Tail.FIT else f"{tail}.{Tail.TEST}", step.key, other)


def _swap_back(piece: Piece) -> Iterator[Step]:
    other = piece.other
    partner = other.item if other else piece.partner
    assert partner is not None
    theirs_out = other.out if other else piece.key(Tail.OUT_OTHER)
    both, back = (piece.out, theirs_out), (piece.slot.put_back,)
    theirs = Other(partner.id, partner.name, piece.slot.key)
    how = (*piece.slot.rule(Action.SWAP).card.how, piece.slot.put_back)
    yield theirs.on(replace(piece.step(Tail.FIT, StepKind.FIT, how), needs=both, is_task=True))
    yield replace(piece.step(Tail.FIT_OTHER, StepKind.FIT, back), needs=both, slot=piece.slot.swaps_with)
    left = piece.step(Tail.FIT_BACK, StepKind.FIT, back)
    yield replace(left, only_if=(theirs_out, SKIP), needs=(piece.out,))
    yield from _test(piece, Tail.TEST, piece.key(Tail.FIT), theirs)


def _test(piece: Piece, tail: str, after: str, other: Other | None = None) -> Iterator[Step]:
    if piece.slot.test:
        renew = (RENEW,) if piece.slot.is_renewed else ()
        step = piece.step(tail, StepKind.TEST, (piece.slot.test,))
        step = replace(step, answers=(PASS, FAIL, *renew), needs=(after,))
        yield other.on(step) if other else step


def refit(piece: Piece, untouched: tuple[str, ...] = ()) -> Iterator[Step]:
    """A part from the rack: felt for damp and looked at once more, then put in."""
    drying = piece.drying
    step = replace(piece.step(Tail.DRY, StepKind.DRY_CHECK, ()), cautions=(NamedCaution.NO_HEAT,))
    yield _dries(step, drying) if drying else replace(step, answers=(DRY, DAMP))
    yield from _fit(piece, Tail.FIT, untouched, needs=(step.key,))
