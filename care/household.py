"""Who lives with the machines: the answers that place intervals in their ranges, and what a sheet needs to know."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from math import exp
from typing import Any

from care.errors import InvalidValue, require
from care.kinds import Opening
from care.model import Load
from care.named import NamedCaution
from care.units import FLOOR
from care.vocabulary import Skill


class DustSource(StrEnum):
    """What brings fine dust into a house."""

    WORKSHOP = "workshop"
    BUILDING = "building"
    SOIL = "soil"
    """A farm, a garden of clay."""
    SMOKING = "smoking"


@dataclass(frozen=True, slots=True)
class DryingPlace:
    """Where washed parts dry: its name, air temperature [degC] and relative humidity [%]."""

    name: str
    temp_c: float
    rh_pct: float

    def __post_init__(self) -> None:
        require(0 < len(self.name.strip()) <= 40, "places.name", repr(self.name), "a name of 1 to 40 characters")
        require(0 <= self.temp_c <= 40, "places.temp_c", f"{self.temp_c:g}", "0 to 40 degC (32 to 104 F)")
        require(5 <= self.rh_pct <= 98, "places.rh_pct", f"{self.rh_pct:g}", "5 to 98 %")


MOST = {"long_haired": 20, "animals": 50, "children": 20}
"""The most of each that a household may tell of [-]: more is a slip of the finger."""


@dataclass(frozen=True, slots=True)
class Profile:
    """A household's answers. `carpet` is the share of the floor [0..1], `area_m2` the floor that is vacuumed [m2].

    `tools` are keys of the book's tools; None: nobody said, so all are taken to be there.
    """

    long_haired: int = 1
    animals: int = 0
    children: int = 0
    area_m2: float = 90.0
    carpet: float = 0.5
    dust: tuple[DustSource, ...] = ()
    allergy: bool = False
    skill: Skill = Skill.SCREWS
    tools: tuple[str, ...] | None = None
    places: tuple[DryingPlace, ...] = ()

    def __post_init__(self) -> None:
        for name, most in MOST.items():
            require(0 <= getattr(self, name) <= most, name, getattr(self, name), f"0 to {most}")
        FLOOR.accepted(self.area_m2, "m2")
        require(0 <= self.carpet <= 1, "carpet", f"{self.carpet:g}", "0 to 1")
        names = [place.name.strip().lower() for place in self.places]
        require(len(names) == len(set(names)), "places.name", names, "a name of its own for each place")


HAIR_POINTS = {"long_haired": 1.0, "animals": 1.5}
"""What one more head of long hair or shedding animal counts. Ours."""
HAIR_RATE = 0.46
"""How fast hair points fill the index [-]: two people with long hair and one animal give 0.8. Ours."""
DUST_SHARES: Mapping[DustSource, float] = {
    DustSource.WORKSHOP: 0.6,
    DustSource.BUILDING: 0.7,
    DustSource.SOIL: 0.4,
    DustSource.SMOKING: 0.4,
}
"""Share of the dust index each source takes of what is left of it [-]. Ours."""
CARPET_SHARE, AREA_SHARE, CHILD_SHARE, ANIMAL_SHARE = 0.5, 0.6, 0.15, 0.1
LONG_HAIR_SHARE = 0.1
"""Share of the volume index that each long-haired person takes [-]: hair is most of what a bin holds. Ours."""
DANDER_SHARE = 0.4
"""Share of the dust index that each shedding animal takes [-]: what it sheds is fine enough for filters. Ours."""
FULL_AREA_M2 = 300.0
"""A floor that counts as large [m2]; more counts no more. Ours."""


def load_of(profile: Profile) -> Load:
    """The three load indices [0..1] of a household. Ours: no label prints them; what people find corrects them.

    >>> home = Profile(long_haired=2, animals=1, area_m2=220, carpet=0.5, dust=(DustSource.WORKSHOP,))
    >>> load_of(home)
    Load(hair=0.8, dust=0.82, volume=0.59)
    """
    points = HAIR_POINTS["long_haired"] * profile.long_haired + HAIR_POINTS["animals"] * profile.animals
    dust = [DUST_SHARES[source] for source in set(profile.dust)] + [DANDER_SHARE] * profile.animals
    volume = [CHILD_SHARE] * profile.children + [ANIMAL_SHARE] * profile.animals
    volume += [LONG_HAIR_SHARE] * profile.long_haired
    return Load(
        hair=round(1 - exp(-HAIR_RATE * points), 2),
        dust=round(_together([CARPET_SHARE * profile.carpet, *dust]), 2),
        volume=round(_together([AREA_SHARE * min(1.0, profile.area_m2 / FULL_AREA_M2), *volume]), 2),
    )


def _together(shares: list[float]) -> float:
    """Shares [-] that each take part of what the others leave."""
    left = 1.0
    for share in shares:
        left *= 1 - share
    return 1 - left


WITHOUT: Mapping[str, Any] = {
    "long_haired": 0,
    "animals": 0,
    "children": 0,
    "carpet": 0.0,
    "dust": (),
    "area_m2": 50.0,
}
"""What each answer is held against to show what it changes: none of it, or a flat of 50 m2."""


def held_against(profile: Profile) -> Iterator[tuple[str, Profile]]:
    """For each answer that moves a load, the household without it."""
    for name, nothing in WITHOUT.items():
        if getattr(profile, name) != nothing:
            yield name, replace(profile, **{name: nothing})


BIG_HOME_M2, SMALL_HOME_M2 = 400.0, 20.0
"""Beyond these a figure was more likely typed in the other unit. Ours."""


def check_area(typed: float, unit: str) -> float:
    """A floor typed in `unit` ("m2" or "sq_ft") as m2. Raises `InvalidValue` where the other unit is far more likely.

    >>> round(check_area(650, "sq_ft"), 1)
    60.4
    """
    require(unit in FLOOR.units, "area_unit", unit, " or ".join(FLOOR.units))
    area = FLOOR.in_kept(typed, unit)
    mixed_up = area > BIG_HOME_M2 if unit == "m2" else area < SMALL_HOME_M2
    if mixed_up:
        other = "sq ft" if unit == "m2" else "m2"
        here = "m2" if unit == "m2" else "sq ft"
        raise InvalidValue(
            f"area: {typed:g} {here} is unusual for a home; as {other} it would be usual",
            field="area",
            fix=f"Say whether you mean {typed:g} {here} or {typed:g} {other}.",
            unit_check=True,
            typed=typed,
        )
    return area


SENSITIVE: Mapping[str, str] = {NamedCaution.DUST: NamedCaution.DUST_ALLERGY}
"""Cautions that say more where somebody is allergic."""


@dataclass(frozen=True, slots=True)
class AtTheBench:
    """What a sheet must know of the household: how far they go, who is sensitive, who is small."""

    skill: Skill = Skill.STRIP_DOWN
    allergy: bool = False
    little_ones: bool = False
    """Children or animals, who swallow what is small and reach for what is sharp."""
    tools: frozenset[str] | None = field(default=None)
    pace: float = 1.0
    """How many times the book's minutes they take, learned from their sittings [-]."""

    def opens(self, opening: Opening | None) -> bool:
        """Whether this household undoes an opening itself: asked by sheets, tasks, the fault finder and its cures."""
        return opening is None or self.skill.reaches(opening.skill)

    def has(self, tool: str) -> bool:
        """Whether a tool is there (a key of the book): all are, where nobody said."""
        return self.tools is None or tool in self.tools

    def caution(self, key: str) -> str:
        """The caution to show for `key`: one that says more where somebody is allergic (keys of the book)."""
        return SENSITIVE.get(key, key) if self.allergy else key
