"""What a device may say, a line each. These models are the only source of docs/formats/lines.schema.json.

A line says nothing twice: `id` is the device's own and stays the same over every try, `at` is its own time.
"""

import hashlib
import json
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, TypeAdapter

from care.faults.airflow import At
from care.vocabulary import Ended, Says
from server.base import bounds
from server.devices.models import DeviceKind

LineId = Annotated[str, StringConstraints(min_length=1, max_length=64), bounds.CLEAN]


class Line(BaseModel):
    """Anything a device says: its own id of it, and when it was so, with the offset from UTC."""

    model_config = ConfigDict(extra="forbid", strict=True)

    id: LineId
    at: bounds.Instant


class RunLine(Line):
    """A run that is over: `at` is when it began. `total_min` is the machine's own count of all its minutes so far."""

    kind: Literal["run"]
    minutes: bounds.Minutes
    area_m2: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)] | None = None
    battery_used_percent: bounds.Percent | None = None
    mopped: bool | None = None
    emptied: Annotated[int, Field(ge=0, le=100)] | None = None
    ended: Ended | None = None
    total_min: Annotated[float, Field(ge=0, le=10_000_000, allow_inf_nan=False)] | None = None


class MessageLine(Line):
    """What a machine says of itself: a word of the list, its own words, or both."""

    kind: Literal["message"]
    code: Says | None = None
    words: bounds.Line = ""


class CounterLine(Line):
    """What a machine's own counter says of a part: `part` is its place (docs/devices.md lists them)."""

    kind: Literal["counter"]
    part: bounds.Key
    value: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
    unit: Literal["percent", "hours"]
    sense: Literal["left", "used"]


class SuctionLine(Line):
    """What a gauge read, and what it drew on: an open hose, a plate with a hole, or sealed."""

    kind: Literal["suction"]
    value: bounds.Amount
    unit: Literal["kPa", "inH2O"]
    opening: At


class WeightLine(Line):
    """What lies on a scale."""

    kind: Literal["weight"]
    value: bounds.Amount
    unit: Literal["g", "oz"]


class AirLine(Line):
    """The air of a place: temperature, and how much of the water it could hold it holds."""

    kind: Literal["air"]
    temp: Annotated[float, Field(ge=-200, le=2000, allow_inf_nan=False)]
    unit: Literal["degC", "degF"] = "degC"
    humidity_percent: bounds.Percent


AnyLine = Annotated[
    RunLine | MessageLine | CounterLine | SuctionLine | WeightLine | AirLine, Field(discriminator="kind")
]
LINES: TypeAdapter[AnyLine] = TypeAdapter(AnyLine)
MAY: dict[str, tuple[str, ...]] = {
    DeviceKind.MACHINE: ("run", "message", "counter"),
    DeviceKind.GAUGE: ("suction",),
    DeviceKind.SCALE: ("weight",),
    DeviceKind.CLIMATE: ("air",),
}
"""Which kinds of line each kind of device may post."""


def content_of(line: Line) -> str:
    """A digest of what a line says, however it is written."""
    text = json.dumps(line.model_dump(mode="json"), sort_keys=True)
    return hashlib.sha256(text.encode()).hexdigest()


def lines_of(text: str) -> list[Any]:
    r"""The lines of a post or a file: a JSON list, an object with `lines`, or one JSON object on each line.

    What is no JSON stays the text that it is: it is refused by its line.

    >>> lines_of('[{"id": "1"}]'), lines_of('{"id": "1"}\n\n{"id":')
    ([{'id': '1'}], [{'id': '1'}, '{"id":'])
    """
    whole = _json(text := text.removeprefix("\ufeff").strip())
    if isinstance(whole, dict):
        return list(listed) if isinstance(listed := whole.get("lines"), list) else [whole]
    if isinstance(whole, list):
        return whole
    return [_json(line) for line in text.splitlines() if line.strip()]


def _json(text: str) -> Any:
    try:
        return json.loads(text)
    except (ValueError, RecursionError):
        return text
