"""How long work says where it is. What is told may raise: then the work stops there."""

from collections.abc import Callable

#: told of a stage: (done, of) of its combinations
Step = Callable[[int, int], None]
#: told of the chain: (stage, done, of); of is 0 where a stage has no parts
Progress = Callable[[str, int, int], None]


def quiet(*_: object) -> None:
    """Tell nobody."""
