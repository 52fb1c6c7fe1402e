"""What may be wrong with one machine, or a robot with its dock, and all that can be looked at: the book, made concrete.

A fault of the book becomes a suspect at each part or station that it can be at; a check becomes a probe likewise.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Protocol, TypeVar

from care.content import Book
from care.errors import require
from care.faults.airflow import AirPath, air_path
from care.faults.book import Check, Fault, FaultBook, Route, Symptom, Tick
from care.faults.effects import fits
from care.kinds import Archetype, Opening, Station
from care.parts import Slot

DOCK = "dock"
"""The role of the dock in a case of its robot; the machine itself has none."""


@dataclass(frozen=True, slots=True)
class Spot:
    """Where something is: on the machine or its dock (`role`), at a station, at a part or at none."""

    role: str
    station: Station | None
    slot: Slot | None = None

    @property
    def name(self) -> str:
        """What people call it."""
        if self.slot:
            return self.slot.name.lower()
        return self.station.label if self.station else "machine"

    @property
    def key(self) -> str:
        """Its part's key, or its station's."""
        return self.slot.key if self.slot else self.station.key if self.station else ""

    @property
    def opening(self) -> str | None:
        """What its part, or its station, lies behind (a key of its kind)."""
        return self.slot.opening if self.slot else self.station.opening if self.station else None

    def in_words(self, text: str) -> str:
        """A sentence of the book with its name in it."""
        words = text.format(place=self.name)
        return words[0].upper() + words[1:]

    def of(self, key: str) -> str:
        """The key of something that is here."""
        return ":".join(filter(None, (self.role, key, self.key)))


@dataclass(frozen=True, slots=True)
class Suspect:
    """A fault that this machine may have, there: its chance by the book, and the opening that its part is behind."""

    key: str
    fault: Fault
    at: Spot
    p: float
    opening: Opening | None = None

    @property
    def name(self) -> str:
        """The fault in words."""
        return self.at.in_words(self.fault.name)

    @property
    def sits(self) -> str | None:
        """The column of its air path that its effect is at, where that is not its own station."""
        return self.fault.sits


@dataclass(frozen=True, slots=True)
class Probe:
    """A check that can be made on this machine, there, and what must be undone for it."""

    key: str
    check: Check
    at: Spot
    opening: Opening | None

    @property
    def name(self) -> str:
        """The check as a question."""
        return self.at.in_words(self.check.name)

    @property
    def door(self) -> str | None:
        """The opening that must be undone, told apart from the dock's."""
        return f"{self.at.role}:{self.opening.key}" if self.opening else None

    @property
    def opening_min(self) -> float:
        """Its minutes with the opening still closed [min]."""
        return self.check.minutes + (self.opening.setup_min if self.opening else 0.0)

    def puts_right(self, suspect: "Suspect") -> bool:
        """Whether making it puts a suspect right by the way."""
        return suspect.fault.key in self.check.cures and is_here(suspect, self)

    @property
    def proves_nothing(self) -> bool:
        """Whether no answer to it proves a fault: it only divides."""
        return not any(tell.proves for tell in self.check.tells)


@dataclass(frozen=True, slots=True)
class Heard:
    """Something that may be told unasked of this machine: in words, with which symptoms, and what it answers."""

    key: str
    words: str
    symptoms: tuple[str, ...]
    probe: str
    says: str
    mishap: str = ""


@dataclass(frozen=True)
class Subject:
    """A machine with its dock if it has one: what it may have, show and be checked for."""

    machine: Archetype
    dock: Archetype | None
    symptoms: tuple[Symptom, ...]
    suspects: tuple[Suspect, ...]
    probes: tuple[Probe, ...]
    routes: tuple[Route, ...]
    air: Mapping[str, AirPath | None] = field(default_factory=dict)
    ticks: tuple[Heard, ...] = ()

    def tick(self, key: str) -> Heard:
        """What may be told unasked as `key`. Raises `InvalidValue` when such a machine is not offered it."""
        return _named(self.ticks, key, "told", f"something that can be told of {self.machine.name}")

    def symptom(self, key: str) -> Symptom:
        """The symptom `key`. Raises `InvalidValue` when such a machine is not asked for it."""
        return _named(self.symptoms, key, "symptom", f"something {self.machine.name} can show")

    def suspect(self, key: str) -> Suspect:
        """The suspect `key`. Raises `InvalidValue` when the machine cannot have it."""
        return _named(self.suspects, key, "fault", f"a fault {self.machine.name} can have")

    def probe(self, key: str) -> Probe:
        """The probe `key`. Raises `InvalidValue` when the machine has no such check."""
        return _named(self.probes, key, "check", f"a check that {self.machine.name} has")

    def in_order(self, route: Route) -> list[Probe]:
        """The probes in the fixed order of `route`, from the floor on where a check is made at several places."""
        return [probe for key in route.checks for probe in self.probes if probe.check.key == key]


class _Keyed(Protocol):
    @property
    def key(self) -> str: ...


K = TypeVar("K", bound=_Keyed)


def _named(have: Sequence[K], key: str, field_name: str, limit: str) -> K:
    for one in have:
        if one.key == key:
            return one
    require(False, field_name, key, f"{limit} ({', '.join(one.key for one in have)})")
    raise AssertionError  # require has raised


def subject(
    book: Book,
    machine: Archetype,
    dock: Archetype | None = None,
    features: frozenset[str] = frozenset(),
    dock_features: frozenset[str] = frozenset(),
) -> Subject:
    """What may be wrong with `machine`, and with its `dock` if it has one, and what can be checked."""
    traits = {**machine.traits_with(features), **_of_dock(dock or (machine if machine.serves else None))}
    traits["wet"] = "yes" if "yes" in (traits.get("water"), traits.get("dock_water")) else "no"
    bodies = [("", machine, features)] + ([(DOCK, dock, dock_features)] if dock else [])
    suspects = [s for role, kind, has in bodies for s in _suspects(book.faults, role, kind, has, traits)]
    probes = [p for role, kind, has in bodies for p in _probes(book.faults, role, kind, has, traits)]
    ways = {role: air_path(kind) for role, kind, _ in bodies}
    if machine.serves:
        ways[DOCK] = ways[""]
    return Subject(
        machine,
        dock,
        tuple(s for s in book.faults.symptoms if fits(s.when, traits)),
        tuple(suspects),
        tuple(probes),
        book.faults.routes,
        ways,
        tuple(_heard(book.faults.ticks, probes, traits)),
    )


def _heard(ticks: Sequence[Tick], probes: Sequence[Probe], traits: Mapping[str, str]) -> Iterator[Heard]:
    for tick in (one for one in ticks if fits(one.when, traits)):
        for probe in (one for one in probes if one.check.key == tick.check):
            yield Heard(
                probe.at.of(tick.key), probe.at.in_words(tick.words), tick.symptoms, probe.key, tick.says, tick.mishap
            )


def is_here(suspect: Suspect, probe: Probe) -> bool:
    """Whether a probe looks at the place of a suspect; one at a station speaks of the parts that sit there, too."""
    general = not probe.check.parts and not probe.check.columns
    if general or (suspect.at.role, suspect.at.key) == (probe.at.role, probe.at.key):
        return True
    station = probe.at.station if probe.at.slot is None else None
    return station is not None and (suspect.at.role, suspect.at.station) == (probe.at.role, station)


def changes(suspect: Suspect, probe: Probe) -> bool:
    """Whether putting a suspect right can change what a probe finds: the air that it reads, or what it looks at.

    What is only thought back to stays as it was.
    """
    if probe.check.sign is not None and suspect.fault.air is not None:
        return True
    tells = (tell for tell in probe.check.tells if tell.fault == suspect.fault.key)
    return probe.check.recalled is False and any(tell.anywhere or is_here(suspect, probe) for tell in tells)


def _of_dock(dock: Archetype | None) -> dict[str, str]:
    if dock is None:
        return {}
    return {"dock": dock.traits["collects"], "dock_water": dock.traits["water"]}


def _suspects(
    faults: FaultBook, role: str, kind: Archetype, features: frozenset[str], traits: Mapping[str, str]
) -> Iterator[Suspect]:
    slots = kind.parts(features)
    for fault in faults.faults:
        if not fits(fault.when, {**traits, **kind.traits_with(features)}):
            continue
        for spot, p in _spots_of(fault, role, kind, slots):
            behind = kind.opening(spot.opening) if spot.opening else None
            yield Suspect(spot.of(fault.key), fault, spot, p, behind)


def _spots_of(fault: Fault, role: str, kind: Archetype, slots: Sequence[Slot]) -> Iterator[tuple[Spot, float]]:
    stations = {s.key: s for s in kind.stations}
    for slot in slots:
        if slot.use in fault.parts:
            yield Spot(role, stations.get(slot.station), slot), fault.parts[slot.use]
    for station in kind.stations:
        if station.column in fault.columns:
            yield Spot(role, station), fault.columns[station.column]


def _probes(
    faults: FaultBook, role: str, kind: Archetype, features: frozenset[str], traits: Mapping[str, str]
) -> Iterator[Probe]:
    path = air_path(kind)
    for check in faults.checks:
        general = not check.parts and not check.columns
        mine = traits if general else {**traits, **kind.traits_with(features)}
        if not fits(check.when, mine) or (check.needs_front and not (path and path.has_front)):
            continue
        if general:
            if role == "":
                yield Probe(check.key, check, Spot("", None), None)
            continue
        for spot in _spots(check, role, kind, kind.parts(features)):
            reached = check.behind or spot.slot is None  # what is looked at from outside needs nothing undone
            behind = kind.opening(spot.opening) if spot.opening and reached else None
            yield Probe(spot.of(check.key), check, spot, behind)


def _spots(check: Check, role: str, kind: Archetype, slots: Sequence[Slot]) -> Iterator[Spot]:
    stations = {s.key: s for s in kind.stations}
    yield from (Spot(role, stations.get(s.station), s) for s in slots if s.use in check.parts)
    yield from (Spot(role, s) for s in kind.stations if s.column in check.columns)
