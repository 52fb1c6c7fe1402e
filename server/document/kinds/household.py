"""What a document says of the household itself: answers, days, people, what was noted and corrected."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from care.household import Profile
from care.vocabulary import Action, LoadKind, School
from server.base import bounds
from server.document.kinds.record import MachineId, Number, Record, RecordId
from server.people.models import PeopleChange
from server.season.models import Wish
from server.season.records import Habits


class AnswersRecord(Record):
    """The household's answers from then on: loads [0..1], school, and what the loads were made from."""

    what: Literal["answers"]
    hair: bounds.Share
    dust: bounds.Share
    volume: bounds.Share
    school: School
    profile: Profile | None = None


class MoreLoadRecord(Record):
    """A time of more load than usual, both days included."""

    what: Literal["more_load"]
    kind: LoadKind
    first: bounds.Day
    last: bounds.Day
    level: bounds.Share
    note: bounds.Remark = ""


class AirRecord(Record):
    """What a device measured of the air in a drying place [degC, %]."""

    what: Literal["air"]
    place: bounds.Name
    temp_c: Number
    rh_pct: bounds.Percent


class HabitsRecord(Record):
    """On which days visits are liked."""

    what: Literal["season_habits"]
    value: Habits


class WishRecord(Record):
    """Something asked of the season; chores are [machine, slot, action]."""

    what: Literal["wish"]
    wish: Wish.What
    first: bounds.Day
    last: bounds.Day
    chores: list[tuple[UUID, bounds.Key, Action]] = []
    note: bounds.Remark = ""


class PeopleRecord(Record):
    """Somebody was let in, left, may do more or less, or is called otherwise."""

    what: Literal["people"]
    change: PeopleChange.What
    name: bounds.Remark
    before: bounds.Remark = ""
    role: Literal["", "owner", "helper", "viewer"] = ""


class NoteRecord(Record):
    """A note on a machine or a part. Its picture, if it has one, is the file `photos/<id>.jpg` beside the document."""

    what: Literal["note"]
    machine_id: MachineId
    slot: bounds.Key = ""
    text: bounds.Text = ""
    remind_on: bounds.Day | None = None
    done_id: RecordId | None = None
    width: Annotated[int, Field(ge=0, le=20_000)] = 0
    height: Annotated[int, Field(ge=0, le=20_000)] = 0


class ImportRecord(Record):
    """Something was brought in from a file."""

    what: Literal["import"]
    name: bounds.Line
    added: Annotated[int, Field(ge=0)]


class VoidRecord(Record):
    """A correction: what it voids does not count any more."""

    what: Literal["void"]
    voids: RecordId
    reason: bounds.Line = ""
