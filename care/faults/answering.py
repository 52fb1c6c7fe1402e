"""What an answer makes of a case, and whether it tells of a danger."""

from care.faults.case import Answered, Case, Cured, Event, Noticed, Retested
from care.faults.likelihood import proves
from care.faults.subject import Subject


def looked_for(case: Case, suspect: str) -> bool:
    """Whether a check that could prove it was made and did not."""
    one = case.subject.suspect(suspect)
    for event in case.events:
        if isinstance(event, Answered):
            says = proves(one, case.subject.probe(event.probe))
            if says is not None and says != event.says:
                return True
    return False


def answered(case: Case, probe: str, says: str) -> Case:
    """The case with an answer; where making the check put right what the answer proves, with that cure as well."""
    after = case.with_event(Answered(probe, says))
    check = case.subject.probe(probe).check
    for suspect in case.subject.suspects:
        done = suspect.fault.key in check.cures and proves(suspect, case.subject.probe(probe)) == says
        if done:
            after = after.with_event(Cured(suspect.key))
    return after


def danger_told(subject: Subject, event: Event) -> tuple[str, str] | None:
    """The danger that an event tells of, if one: the role of the machine it is at, and its key in the book."""
    if isinstance(event, Noticed):
        found = subject.symptom(event.symptom).out_of_use
        return ("", found) if found else None
    if danger := danger_of(subject, event):
        assert isinstance(event, Answered)
        return subject.probe(event.probe).at.role, danger
    return None


def danger_of(subject: Subject, event: Event) -> str:
    """The danger that an answer tells of; nothing for what is no such answer."""
    if not isinstance(event, Answered):
        return ""
    check = subject.probe(event.probe).check
    dangers = (tell.danger for tell in check.tells if tell.danger and tell.says == event.says)
    return next(dangers, next((one.danger for one in check.outcomes if one.key == event.says), ""))


def is_gone(case: Case) -> bool:
    """Whether the last try of what was put right found all that was noticed gone."""
    tries = [event for event in case.events if isinstance(event, Retested)]
    return bool(tries) and tries[-1].gone
