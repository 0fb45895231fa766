"""CSS easing text to a curve."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import lru_cache

import tinycss2

from keen_ripple.core.curves.bezier import KEYWORDS, CubicBezier
from keen_ripple.core.curves.calc import Amount, NoAmount, Token, amount_of, is_space, split_at
from keen_ripple.core.curves.easing import Easing
from keen_ripple.core.curves.linear import Linear
from keen_ripple.core.curves.named import PARAMETERS, Named
from keen_ripple.core.curves.steps import ALIASES, JUMPS, Steps
from keen_ripple.core.errors import EasingFault, quoted
from keen_ripple.core.limits import FARTHEST_PERCENTAGE, FARTHEST_PROGRESS, LONGEST_EASING, MOST_POINTS, MOST_STEPS

EXAMPLES = (
    "Write a keyword such as ease-out, or cubic-bezier(0.3, 0, 0.2, 1), steps(4, jump-end) or linear(0, 0.8 40%, 1)."
)


@lru_cache(maxsize=4096)
def parse_easing(text: str) -> Easing:
    """The curve that a CSS `<easing-function>`, or the name of a curve of ours, describes. Raises EasingFault."""
    if len(text) > LONGEST_EASING:
        raise _fault(text, f"has {len(text)} characters, more than {LONGEST_EASING}")
    tokens = tinycss2.parse_component_value_list(text, skip_comments=True)
    words = [token for token in tokens if not is_space(token)]
    if len(words) != 1 or words[0].type not in ("ident", "function"):
        raise _fault(text, "is not an easing function")
    word = words[0]
    if word.type == "ident":
        return _keyword(text, word.lower_value)
    reader = READERS.get(word.lower_name)
    if reader is None:
        raise _fault(text, "is not an easing function")
    try:
        return reader(text, word.arguments)
    except RecursionError:
        raise _fault(text, "has brackets too deep in each other") from None


def _keyword(text: str, plain: str) -> Easing:
    if plain in KEYWORDS:
        return CubicBezier(*KEYWORDS[plain])
    if plain == "linear":
        return Linear()
    if plain in ("step-start", "step-end"):
        return Steps(1, "jump" + plain[4:])
    if plain in PARAMETERS:
        return Named(plain, PARAMETERS[plain][1])
    raise _fault(text, "is not an easing function")


def _named(name: str) -> Callable[[str, Sequence[Token]], Named]:
    def read(text: str, arguments: Sequence[Token]) -> Named:
        parts = split_at(arguments, ",")
        if len(parts) != 1:
            raise _fault(text, f"has {len(parts)} numbers where {name}() takes one")
        return Named(name, _number(text, parts[0]))

    return read


def _bezier(text: str, arguments: Sequence[Token]) -> CubicBezier:
    parts = split_at(arguments, ",")
    if len(parts) != 4:
        raise _fault(text, f"has {len(parts)} numbers where cubic-bezier() takes four")
    x1, y1, x2, y2 = (_number(text, part) for part in parts)
    return CubicBezier(x1, _within(text, y1, FARTHEST_PROGRESS), x2, _within(text, y2, FARTHEST_PROGRESS))


def _steps(text: str, arguments: Sequence[Token]) -> Steps:
    parts = split_at(arguments, ",")
    words = [tinycss2.serialize(part).strip().lower() for part in parts]
    count = _amount(parts[0])
    # A sum is rounded to a whole number, one that is simply written has to be one.
    if count is None or len(parts) > 2 or not (count.is_whole or (parts[0][0].type == "function")):
        raise _fault(text, "needs a whole number of steps, then at most one jump term")
    if count.value > MOST_STEPS:
        raise _fault(text, f"has more steps than {MOST_STEPS}", f"Give at most {MOST_STEPS} steps.")
    jump = ALIASES.get(words[-1], words[-1]) if len(parts) == 2 else "jump-end"
    if jump not in JUMPS:
        raise _fault(text, f"has the unknown jump term {quoted(jump)} ({', '.join(JUMPS)} are known)")
    return Steps(math.floor(count.value + 0.5), jump)


def _linear(text: str, arguments: Sequence[Token]) -> Linear:
    stops: list[tuple[float | None, float]] = []
    for part in split_at(arguments, ","):
        amounts = [amount for amount in map(_amount, ([token] for token in part)) if amount is not None]
        outputs = [amount.value for amount in amounts if not amount.is_percentage]
        inputs = [amount.value for amount in amounts if amount.is_percentage]
        in_between = len(amounts) == 3 and not amounts[1].is_percentage
        if len(amounts) != len(part) or len(outputs) != 1 or len(inputs) > 2 or in_between:
            stop = quoted(tinycss2.serialize(part))
            raise _fault(text, f"has the stop {stop}; a stop is one number and up to two percentages")
        output = _within(text, outputs[0], FARTHEST_PROGRESS)
        places = [_within(text, place, FARTHEST_PERCENTAGE, "%") / 100.0 for place in inputs]
        stops += [(place, output) for place in places] or [(None, output)]
    if len(stops) < 2:
        raise _fault(text, "has one stop where linear() takes at least two")
    if len(stops) > MOST_POINTS:
        raise _fault(text, f"has {len(stops)} stops", f"Give at most {MOST_POINTS}.")
    return Linear(tuple(zip(_spread([x for x, _ in stops]), [y for _, y in stops], strict=True)))


READERS: dict[str, Callable[[str, Sequence[Token]], Easing]] = {
    "cubic-bezier": _bezier,
    "steps": _steps,
    "linear": _linear,
    **{name: _named(name) for name in PARAMETERS},
}


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
    after = 0
    for i, x in enumerate(inputs):
        if x is None:
            if after <= i:
                after = next(j for j in range(i, len(inputs)) if inputs[j] is not None)
            end = inputs[after]
            assert end is not None
            x = filled[-1] + (end - filled[-1]) / (after - i + 1)
        filled.append(x)
    return filled


def _amount(part: Sequence[Token]) -> Amount | None:
    try:
        return amount_of(part[0]) if len(part) == 1 else None
    except NoAmount:
        return None


def _number(text: str, part: Sequence[Token]) -> float:
    amount = _amount(part)
    if amount is None or amount.is_percentage:
        raise _fault(text, f"has {quoted(tinycss2.serialize(part))} where a number belongs")
    return amount.value


def _within(text: str, value: float, farthest: float, unit: str = "") -> float:
    if abs(value) > farthest:
        remedy = f"Give numbers from -{farthest:g}{unit} to {farthest:g}{unit}."
        raise _fault(text, f"has {value:g}{unit}, too far away to be played", remedy)
    return value


def _fault(text: str, what: str, remedy: str = EXAMPLES) -> EasingFault:
    return EasingFault(f"The easing {quoted(text)} {what}.", value=text, remedy=remedy)
