"""What the household's answers take and give."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import Field

from care import household as core
from care.bench.drying import climate_factor, mildews
from care.book import load_book
from care.content import Tool
from care.due.effects import AnswerEffect
from care.household import DustSource, Profile
from care.model import Load
from care.units import FLOOR
from care.vocabulary import Action, Calendar, Meter, School, Skill
from server.base import bounds
from server.base.schema import Schema


class PlaceInOut(Schema):
    """Where parts dry: air temperature [degC], relative humidity [%]."""

    name: bounds.Name
    temp_c: bounds.Degrees
    rh_pct: bounds.Percent


class AnswersIn(Schema):
    """A household's answers. `area` is in `area_unit`; `sure` keeps an area that looks like the other unit."""

    long_haired: Annotated[int, Field(ge=0, le=core.MOST["long_haired"])]
    animals: Annotated[int, Field(ge=0, le=core.MOST["animals"])]
    children: Annotated[int, Field(ge=0, le=core.MOST["children"])]
    area: bounds.Amount
    area_unit: Literal["m2", "sq_ft"] = "m2"
    sure: bool = False
    carpet: bounds.Share
    dust: bounds.Few[DustSource] = []
    allergy: bool = False
    skill: Skill = Skill.SCREWS
    tools: bounds.Few[bounds.Key] | None = None
    places: bounds.Few[PlaceInOut] = []
    school: School

    def profile(self) -> Profile:
        """The answers as the core has them. Raises `InvalidValue` naming the field."""
        area = core.check_area(self.area, self.area_unit) if not self.sure else self._as_typed()
        return Profile(
            long_haired=self.long_haired,
            animals=self.animals,
            children=self.children,
            area_m2=round(area, 2),
            carpet=self.carpet,
            dust=tuple(self.dust),
            allergy=self.allergy,
            skill=self.skill,
            tools=None if self.tools is None else tuple(self.tools),
            places=tuple(core.DryingPlace(p.name.strip(), p.temp_c, p.rh_pct) for p in self.places),
        )

    def _as_typed(self) -> float:
        return FLOOR.in_kept(self.area, self.area_unit)


class LoadOut(Schema):
    """The three load indices [0..1]."""

    hair: float
    dust: float
    volume: float


class EffectOut(Schema):
    """An interval before and after, in the unit of its meter."""

    machine: str
    part: str
    action: Action
    meter: Meter
    calendar: Calendar | None
    before: float
    after: float


class AnswerEffectOut(Schema):
    """What one answer changes against having none of it: how many intervals, and the largest changes."""

    answer: str
    count: int
    largest: list[EffectOut]


class ClimateOut(Schema):
    """How a place dries: times as long as at 20 degC and 50 %, and whether mildew is quicker."""

    name: str
    factor: float
    mildew: bool


class PreviewOut(Schema):
    """What a set of answers comes to: its loads, what each answer changes, and what changes from today's answers."""

    load: LoadOut
    answers: list[AnswerEffectOut]
    moves: AnswerEffectOut
    climates: list[ClimateOut]


class SubstituteOut(Schema):
    """What serves in place of a tool, and what it risks or misses."""

    key: str
    name: str
    mind: str


class ToolKeyOut(Schema):
    """A tool that a household may have; `instead`: what serves in its place."""

    key: str
    name: str
    mind: str
    instead: list[SubstituteOut]


class VersionOut(Schema):
    """A dated version of the answers."""

    day: date
    by: str
    school: School
    load: LoadOut
    profile: dict[str, Any] | None


class HouseholdOut(Schema):
    """The household's answers in force, or what is taken as long as nobody answered; its versions, newest first."""

    answered: bool
    area_m2: float
    profile: dict[str, Any]
    school: School
    load: LoadOut
    tools: list[ToolKeyOut]
    versions: list[VersionOut]


SHOWN = 3
"""How many changed intervals are named; the rest is a count."""


def load_out(load: Load) -> LoadOut:
    """The indices as the API gives them."""
    return LoadOut.model_validate(load)


def answer_effect_out(answer: str, found: list[AnswerEffect]) -> AnswerEffectOut:
    """The largest of an answer's effects, each part and action once."""
    seen: dict[tuple[str, str], AnswerEffect] = {}
    for effect in found:
        seen.setdefault((effect.part, effect.action), effect)
    largest = [EffectOut.model_validate(e, from_attributes=True) for e in list(seen.values())[:SHOWN]]
    return AnswerEffectOut(answer=answer, count=len(found), largest=largest)


def climates_out(profile: Profile) -> list[ClimateOut]:
    """How each place dries."""
    return [ClimateOut(name=p.name, factor=climate_factor(p), mildew=mildews(p)) for p in profile.places]


def tools_out() -> list[ToolKeyOut]:
    """The tools that cards and openings name, by name."""
    by_name = sorted(load_book().tools.values(), key=lambda tool: tool.name)
    return [ToolKeyOut(key=t.key, name=t.name, mind=t.mind, instead=_substitutes(t)) for t in by_name]


def _substitutes(tool: Tool) -> list[SubstituteOut]:
    return [SubstituteOut.model_validate(one) for one in tool.instead]
