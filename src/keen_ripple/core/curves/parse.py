"""CSS easing text to a curve."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from functools import lru_cache, partial

from keen_ripple.core.curves.bezier import KEYWORDS, CubicBezier
from keen_ripple.core.curves.easing import Easing
from keen_ripple.core.curves.linear import Linear
from keen_ripple.core.curves.named import PARAMETERS, Named
from keen_ripple.core.curves.steps import ALIASES, JUMPS, Steps
from keen_ripple.core.errors import EasingFault

NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?"
FUNCTION = re.compile(r"(cubic-bezier|steps|linear|anticipation|overshoot|bounce|elastic)\(\s*(.*?)\s*\)", re.S)
EXAMPLES = (
    "Write a keyword such as ease-out, or cubic-bezier(0.3, 0, 0.2, 1), steps(4, jump-end) or linear(0, 0.8 40%, 1)."
)


@lru_cache(maxsize=4096)
def parse_easing(text: str) -> Easing:
    """The curve that a CSS `<easing-function>`, or the name of a curve of ours, describes. Raises EasingFault."""
    plain = text.strip().lower()
    if plain in KEYWORDS:
        return CubicBezier(*KEYWORDS[plain])
    if plain == "linear":
        return Linear()
    if plain in ("step-start", "step-end"):
        return Steps(1, "jump" + plain[4:])
    if plain in PARAMETERS:
        return Named(plain, PARAMETERS[plain][1])
    match = FUNCTION.fullmatch(plain)
    if not match:
        raise _fault(text, "is not an easing function")
    arguments = [part.strip() for part in match[2].split(",")]
    readers: dict[str, Callable[[str, list[str]], Easing]]
    readers = {"cubic-bezier": _bezier, "steps": _steps, "linear": _linear}
    return readers.get(match[1], partial(_named, match[1]))(text, arguments)


def _named(name: str, text: str, arguments: list[str]) -> Named:
    if len(arguments) != 1:
        raise _fault(text, f"has {len(arguments)} numbers where {name}() takes one")
    return Named(name, _number(text, arguments[0]))


def _bezier(text: str, arguments: list[str]) -> CubicBezier:
    if len(arguments) != 4:
        raise _fault(text, f"has {len(arguments)} numbers where cubic-bezier() takes four")
    return CubicBezier(*(_number(text, argument) for argument in arguments))


def _steps(text: str, arguments: list[str]) -> Steps:
    if len(arguments) > 2 or not re.fullmatch(r"\+?\d+", arguments[0]):
        raise _fault(text, "needs a whole number of steps, then at most one jump term")
    jump = arguments[1] if len(arguments) == 2 else "jump-end"
    jump = ALIASES.get(jump, jump)
    if jump not in JUMPS:
        raise _fault(text, f"has the unknown jump term {jump!r} ({', '.join(JUMPS)} are known)")
    return Steps(int(arguments[0]), jump)


def _linear(text: str, arguments: list[str]) -> Linear:
    stops: list[tuple[float | None, float]] = []
    for argument in arguments:
        words = argument.split()
        outputs = [word for word in words if not word.endswith("%")]
        inputs = [word for word in words if word.endswith("%")]
        if len(outputs) != 1 or len(inputs) > 2 or (len(words) == 3 and words[1] == outputs[0]):
            raise _fault(text, f"has the stop {argument!r}; a stop is one number and up to two percentages")
        output = _number(text, outputs[0])
        stops += [(_number(text, i[:-1]) / 100.0, output) for i in inputs] or [(None, output)]
    if len(stops) < 2:
        raise _fault(text, "has one stop where linear() takes at least two")
    return Linear(tuple(zip(_spread([x for x, _ in stops]), [y for _, y in stops], strict=True)))


def _spread(inputs: list[float | None]) -> list[float]:
    """Inputs left out lie evenly between their neighbours; none lies before one that stands earlier."""
    if inputs[0] is None:
        inputs[0] = 0.0
    if inputs[-1] is None:
        inputs[-1] = max(1.0, *(x for x in inputs if x is not None))
    largest = -math.inf
    for i, x in enumerate(inputs):
        if x is not None:
            inputs[i] = largest = max(x, largest)
    filled: list[float] = []
    for i, x in enumerate(inputs):
        if x is None:
            after = next(j for j in range(i, len(inputs)) if inputs[j] is not None)
            end = inputs[after]
            assert end is not None
            x = filled[-1] + (end - filled[-1]) / (after - i + 1)
        filled.append(x)
    return filled


def _number(text: str, word: str) -> float:
    if not re.fullmatch(NUMBER, word):
        raise _fault(text, f"has {word!r} where a number belongs")
    return float(word)


def _fault(text: str, what: str) -> EasingFault:
    return EasingFault(f"The easing {text!r} {what}.", value=text, remedy=EXAMPLES)
