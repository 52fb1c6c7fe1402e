"""Minutes to the proven fault: the fault finder against somebody who goes down a fixed list, and against chance.

Seeded, another seed than the tests'. Every way sees the same machines. Minutes are hands-on, with a tenth of what is
waited; a proof counts when the machine has run again and what was noticed is gone.
"""

import os
from collections.abc import Callable, Iterable
from concurrent.futures import ProcessPoolExecutor
from copy import deepcopy
from dataclasses import dataclass, field
from statistics import fmean, median
from time import perf_counter

import numpy as np

from benchmarks.faults import Machine, World
from care.book import load_book
from care.faults.answering import answered
from care.faults.background import Influence
from care.faults.case import CANT_TELL, Case, Cured, Noticed, Retested
from care.faults.hands import Hands
from care.faults.inference import Belief
from care.faults.likelihood import OTHER, States, proves
from care.faults.next_check import WAITING, Bench, bench
from care.faults.subject import Probe, Subject, subject
from care.faults.verdict import Assessment, Stand, assess, assess_belief

CASES = int(os.environ.get("YPERON_BENCH_CASES", "1000"))
SEED = int(os.environ.get("YPERON_BENCH_SEED", "71421"))
UNCLEAR, WRONG = 0.10, 0.05
"""How often somebody can't tell, and how often they tell what is not so, whatever the machine shows."""
CASES_A_WORLD = 25
"""After so many machines comes another world, with other chances: of one alone, one chance decides the table."""
LONG_MIN, QUICK_MIN = 60.0, 20.0
"""No case should take longer without an offer to hand it over; nine of ten should be over by then [min]."""
RETEST_MIN = 1.0
SPREAD = 1.8
"""Of what the records tell of each fault [nat]: a calibrated log-likelihood ratio, true and false alike."""
NO_GAUGE = Hands(lacks=frozenset({"gauge"}))
WAYS = {
    "a": "fixed list",
    "p": "list, minding",
    "b": "Yperon, base rates",
    "c": "Yperon, records",
    "d": "chance",
}
KINDS = {
    "cordless": ("cordless-two-filter", None),
    "canister": ("canister-bagless", None),
    "upright": ("upright-belt", None),
    "robot with dock": ("robot-mop", "dock-wash"),
}


@dataclass
class Score:
    """How one way did: minutes of each case, which ended with the fault found, the stated odds beside the truth."""

    minutes: list[float] = field(default_factory=list)
    found: list[bool] = field(default_factory=list)
    stated: list[tuple[float, bool]] = field(default_factory=list)
    lost: list[str] = field(default_factory=list)
    ungated: int = 0

    def line(self, of: "Score") -> str:
        """Mean and 90 % minutes, beside the fixed list, and the share found."""
        mean, top = fmean(self.minutes), float(np.quantile(self.minutes, 0.9))
        return (
            f"{mean:5.1f} min, 90 % {top:5.1f}, {mean / fmean(of.minutes):.2f} of (a), found {fmean(self.found):6.1%}; "
            f"{self._share(QUICK_MIN):.0%} within {QUICK_MIN:.0f}, {1 - self._share(LONG_MIN):.1%} over {LONG_MIN:.0f}"
        )

    def _share(self, within: float) -> float:
        return fmean(minutes <= within for minutes in self.minutes)


class Session:
    """One case worked at: the minutes so far, what was told, and the machine itself."""

    def __init__(self, world: World, machine: Machine, rng: np.random.Generator) -> None:
        self.world, self.machine, self.rng = world, machine, rng
        self.case = Case(world.subject, tuple(Noticed(key) for key in machine.noticed))
        for probe, says in world.volunteered(machine):
            self.case = answered(self.case, probe, says)
        self.minutes = 0.0
        self.solved = False
        self.stands = Bench()

    def make(self, probe: Probe) -> str:
        """Make a check; what its answer proves is put right and tried. Returns the answer."""
        self.minutes += self.stands.minutes(probe) + WAITING * probe.check.wait_min
        self.stands = self.stands.after(probe)
        says = CANT_TELL if self.rng.random() < UNCLEAR else self.world.answer(self.machine, probe)
        if says != CANT_TELL and self.rng.random() < WRONG:
            says = str(self.rng.choice([one.key for one in probe.check.outcomes if one.key != says]))
        self.case = answered(self.case, probe.key, says)
        return says

    def put_right(self, suspects: Iterable[int]) -> None:
        """Cure what was proven, close the machine and run it."""
        subjects = self.world.subject.suspects
        for i in suspects:
            if not self._cured_last(subjects[i].key):
                self.case = self.case.with_event(Cured(subjects[i].key))
            self.world.cure(self.machine, i)
            if subjects[i].fault.hand_over and i not in self.machine.faults:
                self.solved = True
        self.minutes += RETEST_MIN
        self.stands = Bench()
        gone = not self.machine.faults or not self.world.still(self.machine)
        self.case = self.case.with_event(Retested(gone))
        comes_back = self.machine.behind & self.machine.faults
        self.solved = self.solved or (gone and not comes_back)

    def _cured_last(self, key: str) -> bool:
        last = self.case.events[-1]
        return isinstance(last, Cured) and last.suspect == key

    def proven(self, probe: Probe, says: str) -> list[int]:
        """The suspects that an answer proves."""
        return [i for i, s in enumerate(self.world.subject.suspects) if says != CANT_TELL and proves(s, probe) == says]


def by_list(session: Session, states: States, *, minds: bool = False) -> None:
    """(a) Down the fixed list, without the half that hose-off excludes; then the whole list once more. (p) With `minds`
    it passes over what cannot have to do with what is noticed, the first time.
    """
    subject_ = session.world.subject
    able = {probe.key for probe in subject_.probes if NO_GAUGE.can(probe)}
    wanted = _relevant(subject_, states, session.machine.noticed) if minds else able
    route = next(r for r in subject_.routes if r.school == "workshop")
    for again in (False, True):
        told = session.case.answers("front-off") if "front-off" in able else []
        half = {"good": "front", "poor": "body"}.get(told[-1], "") if told and not again else ""
        for probe in subject_.in_order(route):
            if session.solved:
                return
            if probe.key not in able or (probe.check.live and _still(subject_, session.machine.noticed)):
                continue
            if not again and (probe.key not in wanted or (half and _half(probe) not in ("", half))):
                continue
            says = session.make(probe)
            if probe.check.key == "front-off" and says != CANT_TELL:
                half = "front" if says == "good" else "body"
            if found := session.proven(probe, says):
                session.put_right(found)


def by_chance(session: Session, states: States) -> None:
    """(d) Any open check that can have to do with what is noticed, at random; then all of them."""
    subject_ = session.world.subject
    wanted = _relevant(subject_, states, session.machine.noticed)
    still = _still(subject_, session.machine.noticed)
    for again in (False, True):
        probes = [
            p
            for p in subject_.probes
            if p.key in wanted or (again and NO_GAUGE.can(p) and not (still and p.check.live))
        ]
        for number in session.rng.permutation(len(probes)):
            if session.solved:
                return
            says = session.make(probes[number])
            if found := session.proven(probes[number], says):
                session.put_right(found)


def by_yperon(session: Session, states: States, score: Score, moved: list[Influence]) -> None:
    """(b), (c) What Yperon says next, until it says that it is found, handed over or not to be found."""
    for _ in range(150):
        now = assess_belief(Belief(session.case, moved=moved, states=states), NO_GAUGE)
        if session.solved:
            return
        match now.verdict.stand:
            case Stand.ASK:
                _note(session, now, score, states)
                probe = now.next[0].probe
                score.ungated += _ungated(session, now)
                session.make(probe)
            case Stand.CURE | Stand.TRY | Stand.RETEST:
                session.put_right([states.index[key] for key in now.verdict.suspects])
            case Stand.HAND_OVER | Stand.MEANT:
                session.solved = any(states.index[key] in session.machine.faults for key in now.verdict.suspects)
                return
            case _:
                return


def _ungated(session: Session, now: Assessment) -> int:
    """1 where a check that needs the power off, or runs the machine, comes without a gate that says so."""
    probe = now.next[0].probe
    stands = bench(session.case)
    free = probe.check.hands_off or (probe.at.role in stands.safe and not probe.check.live)
    return int(not free and not now.next[0].gates)


def _note(session: Session, now: Assessment, score: Score, states: States) -> None:
    """What is stated of the likeliest cause beside whether it is there; what is not listed is never it here."""
    key, chance = now.odds[0]
    if states.subject.suspect(key).fault.key != OTHER:
        score.stated.append((chance, states.index[key] in session.machine.faults))


def _relevant(subject_: Subject, states: States, noticed: tuple[str, ...]) -> set[str]:
    """Checks that can prove a fault at least twice as likely to show what is noticed as nothing is; hose-off, too."""
    shows = {key: states.shows(subject_.symptom(key)) for key in noticed}
    likely = {
        s.key
        for i, s in enumerate(subject_.suspects)
        if any(show[i + 1] > 2 * show[0] for show in shows.values()) and s.fault.key != "other"
    }
    still = _still(subject_, noticed)
    wanted = {
        p.key
        for p in subject_.probes
        if any(proves(s, p) for s in subject_.suspects if s.key in likely) or p.check.key == "front-off"
    }
    return {
        key for key in wanted if NO_GAUGE.can(subject_.probe(key)) and not (still and subject_.probe(key).check.live)
    }


def _still(subject_: Subject, noticed: tuple[str, ...]) -> bool:
    return any(subject_.symptom(key).stands_still for key in noticed)


def _half(probe: Probe) -> str:
    if probe.at.station is None:
        return ""
    column = probe.at.station.column
    return "front" if column in ("floor", "neck", "wand", "hose") else "body" if column != "off_path" else ""


def _told(machine: Machine, world: World, rng: np.random.Generator) -> list[Influence]:
    """Records that carry a stated number of bits: a calibrated log-likelihood ratio for every fault."""
    moved = []
    for i in world.can_be:
        suspect = world.subject.suspects[i]
        mean = SPREAD**2 / 2 * (1 if i in machine.faults else -1)
        moved.append(Influence(suspect.key, "clock", float(rng.normal(mean, SPREAD)) / float(np.log(2)), 0.0))
    return moved


def run(name: str) -> dict[str, Score]:
    """All ways over the same machines of one kind."""
    book = load_book()
    kind, dock = KINDS[name]
    one = subject(book, book.archetypes[kind], book.archetypes[dock] if dock else None)
    states = States(one)
    scores = {way: Score() for way in WAYS}
    for number in range(CASES):
        if number % CASES_A_WORLD == 0:
            world = World(one, SEED + number)
        machine = world.draw()
        told = _told(machine, world, np.random.default_rng([SEED, number, 9]))
        ways: dict[str, Callable[[Session], None]] = {
            "a": lambda s: by_list(s, states),
            "p": lambda s: by_list(s, states, minds=True),
            "b": lambda s: by_yperon(s, states, scores["b"], []),
            "c": lambda s, told=told: by_yperon(s, states, scores["c"], told),  # type: ignore[misc]
            "d": lambda s: by_chance(s, states),
        }
        for way, work in ways.items():
            world.rng = np.random.default_rng([SEED, number, 7])  # people tell the same unasked, whoever looks
            session = Session(world, deepcopy(machine), np.random.default_rng([SEED, number, 5]))
            world.rng = np.random.default_rng([SEED, number, ord(way)])
            work(session)
            scores[way].minutes.append(session.minutes)
            scores[way].found.append(session.solved)
            if not session.solved:
                scores[way].lost.append("+".join(sorted(one.suspects[i].fault.key for i in machine.faults)))
    return scores


def measure() -> list[str]:
    """The table, the calibration, and where Yperon loses."""
    with ProcessPoolExecutor() as pool:
        told = dict(zip(KINDS, pool.map(run, KINDS), strict=True))
    bits = SPREAD**2 / 2 / float(np.log(2))
    lines = [f"{CASES} cases each, {UNCLEAR:.0%} can't tell; records in (c) tell {bits:.1f} bits of the true fault"]
    for name, scores in told.items():
        lines += [f"{name}: ({way}) {words:19s} {scores[way].line(scores['a'])}" for way, words in WAYS.items()]
        share = fmean(scores["b"].minutes) / fmean(scores["p"].minutes)
        lines.append(f"{name}: (b) takes {share:.2f} of the minutes of (p)")
    lines += _calibration([pair for scores in told.values() for pair in scores["b"].stated])
    lines.append(_speed())
    lines.append(f"steps before their gate: {sum(s[w].ungated for s in told.values() for w in 'bc')}")
    return lines + _losses(told)


def _speed() -> str:
    """How long a next check takes in the core once a kind is known: the slowest kind, medians of 31."""
    book = load_book()
    slowest = ("", 0.0)
    for kind, dock in KINDS.values():
        one = subject(book, book.archetypes[kind], book.archetypes[dock] if dock else None)
        states = States(one)
        case = Case(one, (Noticed(one.symptoms[0].key), Noticed(one.symptoms[1].key)))
        assess(case, states=states)
        times = []
        for _ in range(31):
            began = perf_counter()
            assess(case, states=states)
            times.append((perf_counter() - began) * 1000)
        slowest = max(slowest, (kind, median(times)), key=lambda pair: pair[1])
    return f"next check of the slowest kind ({slowest[0]}): {slowest[1]:.1f} ms (aim 15)"


def _calibration(stated: list[tuple[float, bool]]) -> list[str]:
    bands = ((0.0, 0.2), (0.2, 0.4), (0.4, 0.6), (0.6, 0.8), (0.8, 1.01))
    told = []
    for low, high in bands:
        inside = [(p, true) for p, true in stated if low <= p < high]
        if inside:
            told.append(
                f"{fmean(p for p, _ in inside):.0%} stated {fmean(t for _, t in inside):.0%} true ({len(inside)})"
            )
    return ["likeliest cause, (b): " + ", ".join(told)]


def _losses(told: dict[str, dict[str, Score]]) -> list[str]:
    lines = []
    for name, scores in told.items():
        a, b = np.array(scores["a"].minutes), np.array(scores["b"].minutes)
        slower = float((b > a + 1).mean())
        lost = scores["b"].lost
        often = sorted(set(lost), key=lambda key: -lost.count(key))[:4]
        named = ", ".join(f"{key} {lost.count(key)}" for key in often) or "none"
        lines.append(f"{name}: (b) slower than (a) by over a minute in {slower:.0%}; not found: {named}")
    return lines


if __name__ == "__main__":
    print("\n".join(measure()))
