"""What may not be looked at now, since it could hurt somebody or the machine."""

from care.faults.book import Outcome
from care.faults.case import CANT_TELL, Answered, Case
from care.faults.subject import Probe


class Safety:
    """What has to be seen to be safe in a case, before anything is run or charged, and whether it was."""

    def __init__(self, case: Case) -> None:
        self.case = case
        self._noticed = [case.subject.symptom(key) for key in case.symptoms]

    def seen(self, check: str) -> bool:
        """Whether each look of this kind that the machine has found nothing, the last time it was made."""
        probes = [probe for probe in self.case.subject.probes if probe.check.key == check]
        return all(self._last(probe) == probe.check.outcomes[0].key for probe in probes)

    def _last(self, probe: Probe) -> str:
        return next((s for s in reversed(self.case.answers(probe.key)) if s != CANT_TELL), "")

    @property
    def first(self) -> frozenset[str]:
        """The looks (keys of checks) that what is noticed asks for before all else, those that are still to be made."""
        wanted = {key for symptom in self._noticed for key in symptom.first}
        return frozenset(key for key in wanted if not self.seen(key))

    @property
    def forbidden(self) -> bool:
        """Whether something noticed or found forbids all power, and nothing was done since that could end it."""
        if any(symptom.out_of_use for symptom in self._noticed):
            return True
        answers = (e for e in self.case.standing if isinstance(e, Answered) and e.says != CANT_TELL)
        return any(_outcome(self.case, e).stands_still and e.says in self.case.answers(e.probe)[-1:] for e in answers)

    @property
    def may_power(self) -> bool:
        """Whether anything may be plugged in or charged: nothing forbids it, and what must be was seen."""
        return not (self.first or self.forbidden)

    @property
    def may_run(self) -> bool:
        """Whether the machine may be run for a test: not while it cools, either."""
        cools = not all(self.case.resting.values())
        return self.may_power and not cools and not any(symptom.stands_still for symptom in self._noticed)


def _outcome(case: Case, answered: Answered) -> Outcome:
    outcomes = case.subject.probe(answered.probe).check.outcomes
    return next(one for one in outcomes if one.key == answered.says)
