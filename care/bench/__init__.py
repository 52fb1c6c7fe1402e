"""Work at the bench: from chosen tasks to ordered steps, and from answers to what changed."""

from care.bench.progress import Answer, Progress, follow
from care.bench.sheets import Chosen, Sheet, Step, StepKind, build, build_refit

__all__ = ["Answer", "Chosen", "Progress", "Sheet", "Step", "StepKind", "build", "build_refit", "follow"]
