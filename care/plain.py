"""Frozen values from plain data, as TOML and JSON have it, and back."""

from typing import Any, TypeVar

from pydantic import TypeAdapter

T = TypeVar("T")
_made: dict[Any, TypeAdapter[Any]] = {}


def plain(kind: type[T]) -> TypeAdapter[T]:
    """What checks plain data and makes a value of this kind of it, and plain data of a value.

    Made once for each kind: making one takes many times as long as using it.

    >>> plain(int) is plain(int), plain(tuple[int, ...]).validate_python([1, 2])
    (True, (1, 2))
    """
    if kind not in _made:
        _made[kind] = TypeAdapter(kind)
    return _made[kind]
