"""Frozen values: what ``typing.NamedTuple`` makes, made in a tenth of its time.

A command imports fifty to a hundred classes of values before it does anything. The standard
maker compiles a constructor from text for each of them, which took a seventh of an everyday
command; here all classes with as many fields share the code of one. In all else they are
alike, and to a type checker they are the same.
"""

import collections
import sys
from collections.abc import Callable, Iterable
from types import CodeType, FunctionType

from olive_compass.annotations import TYPE_CHECKING, Any

__all__ = ["Value"]


def _field_reader() -> Callable[[int, str], Any]:
    """What makes the reader of a field: its place and its description in, a descriptor out."""
    # The standard maker's own has no public name, so nobody promises that it stays.
    quick: Callable[[int, str], Any] | None = getattr(collections, "_tuplegetter", None)
    return quick or (lambda place, words: property(lambda value: value[place], doc=words))


_reader = _field_reader()

_made = tuple.__new__

#: What takes so many fields, in their order. They are written out, for compiling one from text takes as
#: long as making ten classes.
_TAKERS = (
    lambda cls: _made(cls, ()),
    lambda cls, a: _made(cls, (a,)),
    lambda cls, a, b: _made(cls, (a, b)),
    lambda cls, a, b, c: _made(cls, (a, b, c)),
    lambda cls, a, b, c, d: _made(cls, (a, b, c, d)),
    lambda cls, a, b, c, d, e: _made(cls, (a, b, c, d, e)),
    lambda cls, a, b, c, d, e, f: _made(cls, (a, b, c, d, e, f)),
    lambda cls, a, b, c, d, e, f, g: _made(cls, (a, b, c, d, e, f, g)),
    lambda cls, a, b, c, d, e, f, g, h: _made(cls, (a, b, c, d, e, f, g, h)),
    lambda cls, a, b, c, d, e, f, g, h, i: _made(cls, (a, b, c, d, e, f, g, h, i)),
    lambda cls, a, b, c, d, e, f, g, h, i, j: _made(cls, (a, b, c, d, e, f, g, h, i, j)),
    lambda cls, a, b, c, d, e, f, g, h, i, j, k: _made(cls, (a, b, c, d, e, f, g, h, i, j, k)),
    lambda cls, a, b, c, d, e, f, g, h, i, j, k, m: _made(
        cls, (a, b, c, d, e, f, g, h, i, j, k, m)
    ),
    lambda cls, a, b, c, d, e, f, g, h, i, j, k, m, n: _made(
        cls, (a, b, c, d, e, f, g, h, i, j, k, m, n)
    ),
    lambda cls, a, b, c, d, e, f, g, h, i, j, k, m, n, o: _made(
        cls, (a, b, c, d, e, f, g, h, i, j, k, m, n, o)
    ),
)

#: What takes more: made when it is first asked for.
_more: dict[int, CodeType] = {}


def _taker(count: int) -> CodeType:
    """The code that takes so many fields."""
    if count < len(_TAKERS):
        return _TAKERS[count].__code__
    if count not in _more:
        places = ", ".join(f"_{number}" for number in range(count))
        # Only numbers of ours stand in the text.
        _more[count] = eval(f"lambda _cls, {places}: _made(_cls, ({places}))").__code__
    return _more[count]


def _constructor(of: str, fields: tuple[str, ...], defaults: tuple[Any, ...]) -> FunctionType:
    """A ``__new__`` that takes the fields by place or name, as quick as one written by hand."""
    code = _taker(len(fields)).replace(co_name="__new__", co_varnames=("_cls", *fields))
    new = FunctionType(code, globals(), "__new__", defaults)
    new.__qualname__ = f"{of}.__new__"
    return new


class _Shared(tuple[Any, ...]):
    """What every value can do beside what a tuple can; named as the standard library names it."""

    __slots__ = ()
    _fields: tuple[str, ...] = ()

    @classmethod
    def _make(cls, parts: Iterable[Any]) -> Any:
        made = tuple.__new__(cls, parts)
        if len(made) != len(cls._fields):
            raise TypeError(f"Expected {len(cls._fields)} arguments, got {len(made)}")
        return made

    def _replace(self, /, **changed: Any) -> Any:
        made = self._make(map(changed.pop, self._fields, self))
        if changed:
            raise ValueError(f"Got unexpected field names: {list(changed)!r}")
        return made

    def _asdict(self) -> dict[str, Any]:
        return dict(zip(self._fields, self, strict=True))

    def __getnewargs__(self) -> tuple[Any, ...]:
        return tuple(self)

    def __repr__(self) -> str:
        parts = (f"{name}={part!r}" for name, part in zip(self._fields, self, strict=True))
        return f"{type(self).__name__}({', '.join(parts)})"


class _Maker(type):
    """Makes the class of a value out of its body: the annotated names are its fields."""

    def __new__(cls, name: str, _bases: tuple[type, ...], body: dict[str, Any]) -> Any:
        fields = tuple(body.get("__annotations__", ()))
        defaults = {field: body[field] for field in fields if field in body}
        for place, field in enumerate(fields):
            body[field] = _reader(place, f"Field {place}.")
        return type(
            name,
            (_Shared,),
            body
            | {
                "__slots__": (),
                "__new__": _constructor(name, fields, tuple(defaults.values())),
                "__match_args__": fields,
                "_fields": fields,
                "_field_defaults": defaults,
            },
        )


# From 3.14 on a class body has no annotations yet when the class is made.
if TYPE_CHECKING or sys.version_info >= (3, 14):
    from typing import NamedTuple as Value
else:
    Value = type.__new__(_Maker, "Value", (), {})
