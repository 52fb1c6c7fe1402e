"""A part at its place on a machine, with its rules."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from care.errors import require
from care.named import DUST_FIRST
from care.rules import WETTING, Card, Drying, Rule, Trigger
from care.vocabulary import Action, Consequence, Found, Meter, School
from care.washability import NO_UNKNOWN_KEYS, Marks, Ruling, Trait, Washing, WashReason


@dataclass(frozen=True, slots=True)
class Find:
    """Something one may see at any look at a part: its words, and what it makes due or which danger it tells of."""

    about: Action
    found: Found
    words: str
    danger: str = ""

    @property
    def key(self) -> str:
        """As an answer.

        >>> Find(Action.REPLACE, Found.DUE, "torn").key
        'replace:due'
        """
        return f"{self.about}:{self.found}"


@dataclass(frozen=True, slots=True)
class Overlay:
    """What a household laid over a part of the book.

    `school` is set where it keeps this part by another school than the rest, `material` where it told one, `marks` is
    what it saw of it: whether it is marked washable, say. `added` tells that the part is its own addition. `wet_rules`
    are the tasks where nothing forbids water, kept while those in force do without.
    """

    school: School | None = None
    material: str = ""
    added: bool = False
    marks: Marks = field(default_factory=dict)
    wet_rules: tuple[Rule, ...] = ()


NOTHING_LAID = Overlay()


@dataclass(frozen=True, slots=True)
class Slot:
    """A position on a machine that holds one item at a time.

    `air_order` is the order in which the air meets layers of one station, `refit_order` the order of putting parts
    back; they differ where layers go in from behind. `drying` is how it dries where washing wets it,
    `washing` how it is washed at all.
    `counted_by_machine` tells that the machine itself counts this part down. `swaps_with` names the slot of an
    identical part that it may change places with. `only_with` names a feature without which the part is not there,
    `unless_with` one with which it is not. `use` is the key of the book's part that it is, `rules` are those in force.
    `seat` says what to look for where it does not go in, `drawing` names a drawing of how it comes out and goes in.
    `over` is what the household laid over it.
    """

    key: str
    station: str
    part: str
    name: str
    short: str
    removable: bool
    as_found: Mapping[Found, str]
    rules: tuple[Rule, ...] = ()
    air_order: int = 1
    refit_order: int = 1
    opening: str | None = None
    take_out: str = ""
    put_back: str = ""
    test: str = ""
    drying: Drying | None = None
    washing: Washing | None = None
    needed_to_run: bool = True
    counted_by_machine: bool = False
    swaps_with: str | None = None
    only_with: str | None = None
    unless_with: str | None = None
    use: str = ""
    seat: tuple[str, ...] = ()
    drawing: str = ""
    over: Overlay = NOTHING_LAID

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        actions = [rule.action for rule in self.rules]
        require(len(actions) == len(set(actions)), "rules", actions, "each action once")
        require(set(self.as_found) == set(Found), "as_found", sorted(self.as_found), "words for all four answers")
        if self.removable:
            require(bool(self.take_out), "take_out", self.take_out, "how to take the part out")
            require(bool(self.put_back), "put_back", self.put_back, "how to put the part back")
        swapping = Action.SWAP in actions
        require(not swapping or bool(self.swaps_with), "swaps_with", self.swaps_with, "the other slot, for a swap")
        for rule in self.rules:
            require(rule.about is None or rule.about in actions, "about", rule.about, "an action of this part")
        self._marked_is_the_label()

    def _marked_is_the_label(self) -> None:
        """Where a mark decides about water, it is the label's own word: by the label such a task is never left out."""
        for rule in self.rules:
            if self.washing and self.washing.needs_mark and rule.action in WETTING:
                label = rule.schools.get(School.LABEL)
                require(label is None or not label.off, "off", rule.action, "nothing by the label: the mark decides")

    def is_there(self, features: frozenset[str]) -> bool:
        """Whether a machine with these features has the part."""
        return (self.only_with is None or self.only_with in features) and self.unless_with not in features

    def drying_of(self, action: Action) -> Drying | None:
        """How the part dries after `action`; None where that leaves it dry, or where it must not get wet."""
        rule = next((rule for rule in self.rules if rule.action is action), None)
        if rule is None:
            return None
        return rule.drying or (self.drying if action in WETTING else None)

    def seen(self, marks: Marks) -> "Slot":
        """The part as it is kept when this was seen of it: a task with water that it must not have is done dry.

        Everything else asks the tasks that come of this: due dates, sheets, plans, wash cards, the rack, the shelf.
        """
        wet = self.over.wet_rules or self.rules
        rules = _kept(wet, self.washing, marks) if self.washing else wet
        return replace(self, rules=rules, over=replace(self.over, marks=marks, wet_rules=wet))

    def school_in(self, house: School) -> School:
        """The school that the part is kept by, in a household or at a machine of school `house`."""
        return self.over.school or house

    @property
    def asks_first(self) -> tuple[Trait, ...]:
        """What decides about a task of it with water, and no feature of the machine tells: a mark, or that no wires are
        in it.
        """
        if not self.washing or all(rule.action not in WETTING or rule.only_with for rule in self.over.wet_rules):
            return ()
        asked = ((Trait.MARKED, self.washing.needs_mark), (Trait.WIRES, self.washing.rules_out_wires))
        return tuple(trait for trait, decides in asked if decides)

    @property
    def stops_while_wet(self) -> bool:
        """Whether the machine waits while it dries, where nothing forbids to wash it."""
        wet = any(rule.action in WETTING and not rule.only_with for rule in (*self.over.wet_rules, *self.rules))
        return wet and self.needed_to_run and self.drying is not None and self.drying.floor_h > 0

    @property
    def wetting(self) -> tuple[Action, ...]:
        """The actions after which it has to dry."""
        return tuple(rule.action for rule in self.rules if self.drying_of(rule.action))

    def first_of(self, actions: Iterable[str]) -> Action | None:
        """The first of these actions that it has a rule for, or what stands in for it; None where it has neither."""
        have = {rule.action: rule.action for rule in self.rules}
        instead = {rule.instead_of: rule.action for rule in self.rules if rule.instead_of}
        return next((done for action in map(Action, actions) if (done := have.get(action, instead.get(action)))), None)

    @property
    def slowest_drying(self) -> Drying | None:
        """How it dries after what wets it most; None where nothing wets it."""
        each = (dries for action in self.wetting if (dries := self.drying_of(action)))
        return max(each, key=lambda dries: dries.reference_h, default=None)

    @property
    def is_renewed(self) -> bool:
        """Whether a new part goes in one day."""
        return any(rule.is_life for rule in self.rules)

    @property
    def is_used_up(self) -> bool:
        """Whether use or a date uses its part up; else only what is found ends it."""
        triggers = (trigger for rule in self.rules if rule.is_life for trigger in rule.triggers)
        return any(trigger.meter is not Meter.CONDITION for trigger in triggers)

    @property
    def takes_turns(self) -> bool:
        """Whether a second part runs while the first dries or rests; one that is only used up waits on the shelf."""
        return bool(self.wetting) or not self.is_renewed

    @property
    def counted_rule(self) -> Rule | None:
        """The rule whose hours the machine itself counts down: its percent is of that rule's figure."""
        return next((rule for rule in self.rules if rule.hours), None) if self.counted_by_machine else None

    def rule(self, action: Action) -> Rule:
        """The rule for `action`. Raises `InvalidValue` when the part has none."""
        for rule in self.rules:
            if rule.action is action:
                return rule
        have = ", ".join(r.action for r in self.rules) or "none"
        require(False, "action", action, f"an action that {self.name} has ({have})")
        raise AssertionError  # require has raised

    @property
    def seen_to(self) -> tuple[Action, ...]:
        """The tasks that count as done when somebody says that the part was seen to: all but a new one and a swap."""
        return tuple(rule.action for rule in self.rules if not rule.is_life and rule.action is not Action.SWAP)

    def words(self, action: Action) -> Mapping[Found, str]:
        """What one sees at each answer when looking with `action` in mind."""
        return self.rule(action).as_found or self.as_found

    def danger(self, action: Action, found: Found) -> str:
        """The danger that an answer tells of (a key of the book); none but the worst answer of a few rules does."""
        return self.rule(action).danger if found is Found.OVERDUE else ""

    def for_repairer(self, action: Action) -> bool:
        """Whether an action is a repairer's work: a new part on which somebody's safety hangs."""
        rule = self.rule(action)
        return rule.is_life and rule.stake is Consequence.SAFETY

    def finds(self, action: Action) -> tuple[Find, ...]:
        """What one may see besides when looking with `action` in mind: what makes another task of the part due."""
        worded = {tuple(self.words(action).values())}
        made: list[Find] = []
        for rule in self.rules:
            words = self.words(rule.action)
            if rule.action in (Action.INSPECT, Action.SWAP) or tuple(words.values()) in worded:
                continue
            worded.add(tuple(words.values()))
            needs = (Found.DUE, Found.OVERDUE) if rule.is_life or rule.danger else (Found.DUE,)
            made += [Find(rule.action, one, words[one], self.danger(rule.action, one)) for one in needs]
        return tuple(made)


def widened(slot: Slot, wide: float) -> Slot:
    """The part of an unknown model: each range may be so many times as early or as late.

    A single figure stays, as printed; what must never be stretched keeps its latest one; counts stay whole.
    """

    def off(trigger: Trigger, rule: Rule) -> Trigger:
        if trigger.meter not in (Meter.DAYS, Meter.RUN_HOURS) or trigger.low == trigger.high:
            return trigger
        return replace(trigger, low=trigger.low / wide, high=trigger.high * (1.0 if rule.never_stretch else wide))

    def of(rule: Rule) -> Rule:
        return replace(rule, triggers=tuple(off(trigger, rule) for trigger in rule.triggers))

    return slot if wide == 1.0 else replace(slot, rules=tuple(map(of, slot.rules)))


def _kept(rules: tuple[Rule, ...], washing: Washing, marks: Marks) -> tuple[Rule, ...]:
    """Rules of a part as they are by what was seen of it: those with water as they are, or done dry.

    A dry task stands in for the first that it replaces, and for none where the part has such a task anyway.
    """
    ruling, because = washing.ruling(marks)
    dry = Action.WIPE if ruling is Ruling.WIPE else Action(washing.dry_as)
    have = {rule.action for rule in rules}
    if ruling is Ruling.WASH:
        seen = washing.needs_mark and because in (
            WashReason.MARKED,
            WashReason.OWN_RISK,
        )  # stands for a feature of that mark
        wet = (replace(r, only_with=None if seen else r.only_with) if r.action in WETTING else r for r in rules)
        return tuple(replace(r, instead_of=dry) if r.action in WETTING and dry not in have else r for r in wet)
    first = next((r for r in rules if r.action in WETTING), None)
    made = []
    for rule in rules:
        if rule.action not in WETTING:
            made.append(replace(rule, about=dry) if rule.about in WETTING else rule)
        elif rule is first and dry not in have:
            dusty = tuple(key for key in DUST_FIRST if key in rule.card.cautions)
            cautions, tools = ((), ()) if ruling is Ruling.WIPE else (washing.dry_cautions, washing.dry_tools)
            card = Card(washing.dry_min, washing.lines(marks), cautions=(*dusty, *cautions), tools=tools)
            done_by = tuple(action for action in rule.done_by if action is not dry)
            made.append(replace(rule, action=dry, card=card, drying=None, done_by=done_by, instead_of=rule.action))
    return tuple(made)
