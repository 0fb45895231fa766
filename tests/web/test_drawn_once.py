"""What was drawn of a revision is not drawn again, and takes no more room than it may."""

from __future__ import annotations

from keen_ripple.web.drawing import Results


def test_the_same_is_made_once_and_the_oldest_goes() -> None:
    made: list[str] = []

    def making(name: str, size: int = 40):
        return lambda: (made.append(name), bytes(size))[1]

    results = Results(100)
    assert len(results.of("a", making("a"))) == 40 and results.of("a", making("a")) == bytes(40)
    results.of("b", making("b"))
    # The one that was asked for last stays.
    results.of("a", making("a"))
    results.of("c", making("c"))
    results.of("a", making("a"))
    assert made == ["a", "b", "c"]
    results.of("b", making("b"))
    assert made == ["a", "b", "c", "b"]
    # What is larger than all the room is given, and not kept.
    for _ in range(2):
        assert len(results.of("large", making("large", 500))) == 500
    assert made[-2:] == ["large", "large"]
