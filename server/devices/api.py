"""Devices over HTTP: connecting them, what they post, what is asked about it, and live news for screens."""

from datetime import timedelta
from http import HTTPStatus
from typing import cast
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import File, Router
from ninja.files import UploadedFile
from ninja.security import HttpBearer
from ninja.throttling import SimpleRateThrottle

from care.errors import InvalidValue
from server.base import clock, codes, live, tokens
from server.base.http import REFUSALS, Problem, problem
from server.base.problems import BadToken
from server.devices import held, services
from server.devices.ingest import take_in
from server.devices.lines import lines_of
from server.devices.models import Device
from server.devices.schemas import (
    DeviceIn,
    DevicesOut,
    FromDevicesOut,
    HeldCountIn,
    HeldDropIn,
    IngestOut,
    RanWithoutOut,
    ReporterOut,
    TokenOut,
    WeighsIn,
    asked_out,
    device_out,
    fall_out,
    ingest_out,
)
from server.devices.taking import Sure
from server.drying.rack import rack
from server.drying.services import places_of
from server.faults.case_schemas import SaidOut
from server.faults.heard import unheard
from server.household.auth import asking
from server.household.models import Member
from server.household.services import last_record
from server.household.writes import for_everybody, for_owners, in_its_own_time, tells_a_secret
from server.machines.services import in_use
from server.notes.readings import falls_of
from server.round.answer import WRITTEN, written
from server.use.without import ran_without

router = Router(tags=["devices"])
UNHEARD_FOR = timedelta(days=3)
"""So long Round shows what a machine said that stands at no case."""
MOST_BYTES = 5_000_000
"""A larger file of lines is refused."""


class ByToken(HttpBearer):
    """A device with a token that is good: `Authorization: Bearer TOKEN`."""

    def authenticate(self, request: HttpRequest, token: str) -> Device:
        """The device. Raises `BadToken`."""
        device = services.by_token(token)
        if device is None:
            raise BadToken(
                "This token is not good: it was not made here, or its device was disconnected.",
                field="Authorization",
                fix="Make a new one on Household, Devices.",
            )
        return device


class EachToken(SimpleRateThrottle):
    """So many posts a minute for each token."""

    def get_cache_key(self, request: HttpRequest) -> str:
        """The token, as it is kept."""
        return "ingest-" + tokens.digest_of(request.headers.get("Authorization", "").removeprefix("Bearer ").strip())


@router.post(
    "/ingest",
    response={200: IngestOut, 401: Problem, 413: Problem, 422: Problem, 429: Problem},
    auth=ByToken(),
    throttle=[EachToken("240/m")],
    operation_id="ingest",
    openapi_extra={
        "requestBody": {
            "required": True,
            "description": "Lines as docs/devices.md has them: a JSON list, or one JSON object on each line.",
            "content": {
                "application/json": {"schema": {"type": "array", "items": {"type": "object"}}},
                "application/x-ndjson": {"schema": {"type": "string"}},
            },
        }
    },
)
@in_its_own_time
@for_everybody
def ingest(request: HttpRequest) -> IngestOut:
    """Lines of a device. Sent again, they count once; a bad one takes no good one with it."""
    return ingest_out(take_in(cast(Device, request.auth), lines_of(_text(request.body))))  # type: ignore[attr-defined]


def _text(data: bytes) -> str:
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InvalidValue(
            f"byte {error.start + 1} is no UTF-8; nothing was taken", field="body", fix="Send it as UTF-8."
        ) from error


def _heard(member: Member) -> FromDevicesOut:
    waiting = held.asked(member)
    on_rack = rack(member) if waiting else []
    return FromDevicesOut(
        ran_without=[RanWithoutOut.model_validate(one) for one in ran_without(member)],
        asked=[asked_out(one, on_rack) for one in waiting],
        falls=[fall_out(*one) for one in falls_of(member)],
        said=[SaidOut.model_validate(one) for one in unheard(member, clock.now() - UNHEARD_FOR)],
    )


def _devices(member: Member) -> DevicesOut:
    return DevicesOut(
        devices=[device_out(row) for row in services.devices_of(member)],
        heard=_heard(member),
        machines=[ReporterOut(id=row.pk, name=row.name, is_dock=row.serves_id is not None) for row in in_use(member)],
        places=[place.name for place in places_of(member.household_id)],
    )


@router.get("/devices", response=DevicesOut, operation_id="devices_list")
def devices(request: HttpRequest) -> DevicesOut:
    """The devices that may post, and what is asked about what they said."""
    return _devices(asking(request))


@router.get("/heard", response=FromDevicesOut, operation_id="heard")
def heard(request: HttpRequest) -> FromDevicesOut:
    """What devices told that somebody should see."""
    return _heard(asking(request))


@router.post("/devices", response={201: TokenOut, **REFUSALS}, operation_id="devices_connect")
@for_owners
@tells_a_secret
def connect(request: HttpRequest, data: DeviceIn) -> tuple[int, TokenOut]:
    """Connect a device: its token is shown now, and never again."""
    member = asking(request)
    device, token = services.connect(
        member=member, kind=data.kind, name=data.name, machine_id=data.machine_id, place=data.place
    )
    address = request.build_absolute_uri("/api/ingest")
    return 201, TokenOut(
        device=device_out(device),
        token=token,
        address=address,
        rows=codes.rows(f"{address}#{token}"),
        only_here=codes.only_here(request),
        devices=_devices(member),
    )


@router.delete("/devices/{device_id}", response={200: DevicesOut, **REFUSALS}, operation_id="devices_disconnect")
@for_owners
def disconnect(request: HttpRequest, device_id: UUID) -> DevicesOut:
    """Its token is not good any more."""
    services.disconnect(member=asking(request), device_id=device_id)
    return _devices(asking(request))


@router.post("/devices/{device_id}/weighs", response={200: DevicesOut, **REFUSALS}, operation_id="devices_weighs")
def weighs(request: HttpRequest, device_id: UUID, data: WeighsIn) -> DevicesOut:
    """Which drying part lies on a scale from now on."""
    services.weighs(member=asking(request), device_id=device_id, item_id=data.item_id)
    return _devices(asking(request))


@router.post(
    "/devices/{device_id}/lines", response={200: IngestOut, **REFUSALS, 413: Problem}, operation_id="devices_lines"
)
@in_its_own_time
def bring_lines(request: HttpRequest, device_id: UUID, file: File[UploadedFile]) -> IngestOut:
    """Lines of a device from a file, as it would post them."""
    device = services.device_of(asking(request), device_id)
    if (file.size or 0) > MOST_BYTES:
        raise InvalidValue("file: it is larger than 5 MB", field="file", fix="Bring it in in parts.")
    sent = lines_of(_text(file.read()))
    return ingest_out(take_in(device, sent, most=len(sent)))


@router.post("/heard/count", response=WRITTEN, operation_id="heard_count")
def count(request: HttpRequest, data: HeldCountIn) -> HttpResponse:
    """Let what a device said count after all."""
    member = asking(request)
    settled = held.count(member=member, entry_ids=data.entry_ids, sure=Sure(data.item_id, data.trusted))
    return written(member, settled.pk)


@router.post("/heard/drop", response=WRITTEN, operation_id="heard_drop")
def drop(request: HttpRequest, data: HeldDropIn) -> HttpResponse:
    """What a device said does not count."""
    member = asking(request)
    return written(member, held.drop(member=member, entry_ids=data.entry_ids).pk)


@router.get("/live", response={200: str, 503: Problem}, operation_id="live")
def live_news(request: HttpRequest) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events: `changed` with the number of the last record, whenever there is a new one."""
    member = asking(request)
    if not settings.LIVE or not live.places.acquire(blocking=False):
        words = "Many screens are open already."
        answer = problem(HTTPStatus.SERVICE_UNAVAILABLE, words, code="busy", fix="This one looks now and then.")
        answer["Retry-After"] = "15"
        return answer
    made = StreamingHttpResponse(live.Stream(lambda: last_record(member)), content_type="text/event-stream")
    made["Content-Encoding"] = "identity"  # or it would be compressed, and kept back until there is more of it
    made["X-Accel-Buffering"] = "no"
    return made
