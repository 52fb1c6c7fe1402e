"""Whether the words of looks hang together: each is seen somewhere, and says one thing of a task that is done here."""

from collections.abc import Container

from care.errors import BookError
from care.kinds import Archetype
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action, School


def check_looks(kind: Archetype, dangers: Container[str], where: str) -> None:
    """Raise `BookError` for words of a part that no look can show, for words that stand for its cleaning and for its
    end at once, for a look about a task that is not done where the look is, and for a danger that there is not.
    """
    for slot in kind.slots:
        at = f"{where}: {slot.key}"
        _check_seen(slot, at)
        for rule in slot.rules:
            if rule.danger and rule.danger not in dangers:
                raise BookError(f"{at}.{rule.action}: there is no danger {rule.danger!r}", field="danger")
            if rule.about is not None:
                _check_about(rule, slot.rule(rule.about), at)


def _check_seen(slot: Slot, at: str) -> None:
    """The words of the part itself are those of its tasks that have none of their own."""
    plain = [r for r in slot.rules if r.as_found is None and r.action not in (Action.INSPECT, Action.SWAP)]
    if not plain:
        raise BookError(f"{at}: no look shows the words of as_found", field="as_found", fix="Drop them, or use them.")
    for life in (rule for rule in plain if rule.is_life):
        if any(not rule.is_life and not _apart(rule, life) for rule in plain):
            raise BookError(
                f"{at}: as_found stands for its cleaning and for a new one",
                field="as_found",
                fix="Give the rule that replaces it words of its own.",
            )


def _apart(one: Rule, other: Rule) -> bool:
    """Whether two rules never hold on one machine: one hangs on the feature without which the other holds."""
    return (one.only_with is not None and one.only_with == other.unless_with) or (
        other.only_with is not None and other.only_with == one.unless_with
    )


def _check_about(look: Rule, about: Rule, at: str) -> None:
    """A look is about a task that is done wherever the look is: on the same machines, by the same schools."""
    needs = about.only_with in (None, look.only_with) and about.unless_with in (None, look.unless_with)
    schools = [school for school in School if look.at_school(school) and not about.at_school(school)]
    if _apart(look, about) or not needs or schools:
        raise BookError(
            f"{at}: its look is about {about.action}, which is not done wherever the look is",
            field="about",
            fix="Ask about the task that is on, or give both the same only_with, unless_with and schools.",
        )
