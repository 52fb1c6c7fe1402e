"""An account: its password, where it is signed in, and how it likes things shown."""

from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256

from django.contrib.auth.models import User
from django.db import transaction
from qsessions.models import Session
from ua_parser import parse

from care.errors import require
from server.base import clock
from server.base.problems import NotFound
from server.household.services import refuse_weak
from server.people.models import Tastes

CHOICES = {"units": Tastes.Units, "theme": Tastes.Theme, "text": Tastes.Text, "numbers": Tastes.Numbers}


@dataclass(frozen=True, slots=True)
class SignedIn:
    """A browser in which an account is signed in. Its id says nothing of the cookie."""

    id: str
    device: str
    since: datetime | None
    here: bool


def sign_ins(user: User, here: str | None) -> list[SignedIn]:
    """Where an account is signed in; `here` is the key of the session that asks. The newest first."""
    rows = Session.objects.filter(user=user, expire_date__gt=clock.now()).order_by("-created_at")
    return [
        SignedIn(_id_of(row.session_key), device_of(row.user_agent or ""), row.created_at, row.session_key == here)
        for row in rows
    ]


def _id_of(session_key: str) -> str:
    return sha256(session_key.encode()).hexdigest()[:32]


def device_of(user_agent: str) -> str:
    """What a browser says of itself, in words.

    >>> device_of("Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0")
    'Firefox on Linux'
    """
    parsed = parse(user_agent)
    browser = parsed.user_agent.family if parsed.user_agent else ""
    system = parsed.os.family if parsed.os else ""
    return " on ".join(word for word in (browser, system) if word and word != "Other") or "another program"


@transaction.atomic
def end_one(*, user: User, sign_in_id: str) -> None:
    """Sign an account out in one browser. Raises `NotFound`."""
    for row in Session.objects.filter(user=user):
        if _id_of(row.session_key) == sign_in_id:
            row.delete()
            return
    raise NotFound("sign-in: there is none with this id", field="id", fix="Load the page again.")


def end_all(user: User, but: str | None = None) -> None:
    """Sign an account out everywhere, but in the session with the key `but`."""
    Session.objects.filter(user=user).exclude(session_key=but or "").delete()


@transaction.atomic
def change_password(*, user: User, new: str, here: str | None) -> None:
    """A new password; every other browser is signed out. Raises `InvalidValue` for one that is guessed soon."""
    refuse_weak(user.username, new)
    user.set_password(new)
    user.save(update_fields=["password"])
    end_all(user, but=here)


def tastes_of(user: User) -> Tastes:
    """How an account likes things shown; what was never chosen is as usual."""
    return Tastes.objects.filter(pk=user.pk).first() or Tastes(user=user)


@transaction.atomic
def choose(*, user: User, **chosen: str) -> None:
    """Choose how things are shown: `units`, `theme`, `text`, `numbers`. Raises `InvalidValue`."""
    for name, value in chosen.items():
        require(value in CHOICES[name].values, name, value, "one of " + ", ".join(CHOICES[name].values))
    Tastes.objects.update_or_create(user=user, defaults=chosen)
