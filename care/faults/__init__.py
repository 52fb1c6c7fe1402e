"""Finding faults: the air of a machine, what may be wrong with it, the odds, and what to look at next."""

from care.faults.airflow import AirPath, At, Flow, air_path, sign, solve
from care.faults.background import NOTHING_KNOWN, Background, Influence, PartBackground
from care.faults.case import CANT_TELL, Answered, Case, Cured, Event, Noticed, Rests, Retested, by_gauge
from care.faults.inference import Belief, Doubt, TrailStep
from care.faults.likelihood import States
from care.faults.next_check import ANYBODY, Hands, Next
from care.faults.subject import Probe, Subject, Suspect, subject
from care.faults.verdict import Assessment, Stand, Verdict, answered, assess

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
    "Subject",
    "Suspect",
    "TrailStep",
    "Verdict",
    "air_path",
    "answered",
    "assess",
    "by_gauge",
    "sign",
    "solve",
    "subject",
]
