"""Finding faults: the air of a machine, what may be wrong with it, the odds, and what to look at next."""

from care.trace.airflow import AirPath, At, Flow, air_path, sign, solve
from care.trace.background import NOTHING_KNOWN, Background, Influence, PartBackground
from care.trace.case import CANT_TELL, Answered, Case, Cured, Event, Noticed, Rests, Retested, by_gauge
from care.trace.inference import Belief, Doubt, Step
from care.trace.likelihood import States
from care.trace.next_check import ANYBODY, Hands, Next
from care.trace.subject import Probe, Subject, Suspect, subject
from care.trace.verdict import Assessment, Stand, Verdict, answered, assess

__all__ = [
    "ANYBODY",
    "CANT_TELL",
    "NOTHING_KNOWN",
    "AirPath",
    "Answered",
    "Assessment",
    "At",
    "Background",
    "Belief",
    "Case",
    "Cured",
    "Doubt",
    "Event",
    "Flow",
    "Hands",
    "Influence",
    "Next",
    "Noticed",
    "PartBackground",
    "Probe",
    "Rests",
    "Retested",
    "Stand",
    "States",
    "Step",
    "Subject",
    "Suspect",
    "Verdict",
    "air_path",
    "answered",
    "assess",
    "by_gauge",
    "sign",
    "solve",
    "subject",
]
