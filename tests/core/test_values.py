"""Values behave as those that the standard library makes from the same class body."""

import copy
import pickle
from typing import Any, NamedTuple

import pytest

from olive_compass.values import Value


class Ours(Value):
    """A mark on a sheet."""

    name: str
    far: float = 1.5
    near: tuple[str, ...] = ()

    @property
    def loud(self) -> str:
        return self.name.upper()

    def __str__(self) -> str:
        return f"{self.name} at {self.far}"


class Standard(NamedTuple):
    """A mark on a sheet."""

    name: str
    far: float = 1.5
    near: tuple[str, ...] = ()

    @property
    def loud(self) -> str:
        return self.name.upper()

    def __str__(self) -> str:
        return f"{self.name} at {self.far}"


class Nothing(Value):
    """A value without a field."""


def _answers(made: Any) -> list[object]:
    one = made("pier", near=("a", "b"))
    name, *rest = one
    match one:
        case made(far=far, name=matched):
            found = far, matched
    return [
        (name, rest, found, one[0], one.far, one.near, one.loud, str(one), len(one)),
        (one._asdict(), one._replace(far=2), made._make(["x", 1, ()]), hash(one)),
        (made._fields, made._field_defaults, made.__match_args__, made.__doc__),
        repr(one).replace("Ours", "Standard"),
        (one == ("pier", 1.5, ("a", "b")), one < made("quay"), {one: 1}[made(*one)]),
    ]


def test_a_value_does_all_that_a_standard_one_does() -> None:
    assert _answers(Ours) == _answers(Standard)
    assert Nothing() == ()
    assert repr(Nothing()) == "Nothing()"
    for copied in (copy.copy, copy.deepcopy, lambda it: pickle.loads(pickle.dumps(it))):
        again = copied(Ours("pier", 3.0))
        assert again == Ours("pier", 3.0)
        assert type(again) is Ours


@pytest.mark.parametrize("wrong", ["()", "('a', 1, (), 2)", "('a', other=1)", "('a', name='b')"])
def test_a_wrong_call_is_refused_in_the_same_words(wrong: str) -> None:
    said = []
    for made in (Ours, Standard):
        with pytest.raises(TypeError) as error:
            eval(f"made{wrong}", {"made": made})
        said.append(str(error.value).replace("Standard", "Ours"))
    assert said[0] == said[1]
    assert "Ours.__new__" in said[0]


def test_a_value_cannot_be_changed_nor_grow() -> None:
    one: Any = Ours("pier")
    for name in ("name", "height"):
        with pytest.raises(AttributeError):
            setattr(one, name, "x")
    with pytest.raises(ValueError, match="height"):
        one._replace(height=1)
    with pytest.raises(TypeError, match="Expected 3"):
        Ours._make(["x"])
