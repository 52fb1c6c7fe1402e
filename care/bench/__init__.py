"""Work at the bench: from chosen tasks to ordered steps, and from answers to what changed."""

from care.bench.progress import Answer, Progress, follow
from care.bench.sheets import build, build_refit, with_extra
from care.bench.steps import Chosen, Job, Sheet, Step, StepKind

__all__ = [
    "Answer",
    "Chosen",
    "Job",
    "Progress",
    "Sheet",
    "Step",
    "StepKind",
    "build",
    "build_refit",
    "follow",
    "with_extra",
]
