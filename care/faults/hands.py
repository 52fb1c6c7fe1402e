"""Who looks: what they have, and what they may do."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from care.content import Tool
from care.faults.subject import Probe, Suspect
from care.household import AtTheBench
from care.vocabulary import Skill


@dataclass(frozen=True, slots=True)
class Hands:
    """Who looks: which tools they lack (keys of the book), and how far they go into a machine."""

    lacks: frozenset[str] = frozenset()
    home: AtTheBench = field(default_factory=AtTheBench)

    @classmethod
    def of(cls, home: AtTheBench, tools: Iterable[Tool]) -> "Hands":
        """The household's: without gauge and meter unless told of; without a second vacuum where they told only
        of other tools.

        Nothing stands in for what a check works by: a can blows where a vacuum draws.
        """
        known = home.tools is not None
        asked = {t.key for t in tools if t.works_by == "rare" or (known and t.works_by == "usual")}
        return cls(frozenset(asked - (home.tools or frozenset())), home)

    def can(self, probe: Probe) -> bool:
        """Whether they can make a check."""
        within = self.home.opens(probe.opening) and self._goes(probe.check.skill)
        return within and not self.lacks & set(probe.check.tools)

    def cures(self, suspect: Suspect) -> bool:
        """Whether they can put it right themselves: it is for a user at all, and not further in than they go."""
        return (
            not (suspect.fault.hand_over or suspect.fault.meant)
            and self.home.opens(suspect.opening)
            and self._goes(suspect.fault.skill)
        )

    def _goes(self, skill: str) -> bool:
        return not skill or self.home.skill.reaches(Skill(skill))


ANYBODY = Hands()
