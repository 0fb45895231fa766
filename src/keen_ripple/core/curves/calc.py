"""Numbers and percentages in CSS text, calc() included (CSS Values and Units Level 4, section 10)."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

Token = Any
"""A component value of tinycss2."""


class Amount(NamedTuple):
    """A number, or a percentage as the number before its sign."""

    value: float
    is_percentage: bool = False
    # Written as a whole number, without a point or an exponent.
    is_whole: bool = False


class NoAmount(ValueError):
    """What stands there is neither a number nor a percentage, or is not finite."""


FOLDS: dict[str, Callable[[list[float]], float]] = {
    "min": min,
    "max": max,
    "clamp": lambda parts: max(parts[0], min(parts[1], parts[2])),
}


def amount_of(token: Token) -> Amount:
    """What one component value stands for. Raises NoAmount."""
    found = _amount(token)
    if not math.isfinite(found.value):
        raise NoAmount
    return found


def is_space(token: Token) -> bool:
    """Whether the token is white space."""
    return bool(token.type == "whitespace")


def split_at(tokens: Sequence[Token], sign: str) -> list[list[Token]]:
    """The runs of tokens between a sign, without white space around each."""
    parts: list[list[Token]] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == sign:
            parts.append([])
        elif not is_space(token):
            parts[-1].append(token)
    return parts


def _amount(token: Token) -> Amount:
    match token.type:
        case "number":
            return Amount(token.value, False, token.is_integer)
        case "percentage":
            return Amount(token.value, True)
        case "function" if token.lower_name == "calc":
            return _sum(token.arguments)
        case "function" if token.lower_name in FOLDS:
            parts = [_sum(part) for part in split_at(token.arguments, ",")]
            if len({part.is_percentage for part in parts}) != 1 or (token.lower_name == "clamp" and len(parts) != 3):
                raise NoAmount
            return Amount(FOLDS[token.lower_name]([part.value for part in parts]), parts[0].is_percentage)
        case "() block":
            return _sum(token.content)
    raise NoAmount


def _sum(tokens: Sequence[Token]) -> Amount:
    """Products joined by + and -."""
    terms: list[tuple[float, list[Token]]] = [(1.0, [])]
    for token in tokens:
        if token.type == "literal" and token.value in ("+", "-"):
            terms.append((1.0 if token.value == "+" else -1.0, []))
        elif not is_space(token):
            terms[-1][1].append(token)
    parts = [(sign, _product(term)) for sign, term in terms]
    if len({part.is_percentage for _, part in parts}) != 1:
        raise NoAmount
    return Amount(sum(sign * part.value for sign, part in parts), parts[0][1].is_percentage)


def _product(tokens: Sequence[Token]) -> Amount:
    """Values joined by * and /; at most one of them a percentage, and none to divide by."""
    if len(tokens) % 2 == 0:
        raise NoAmount
    first, rest = _amount(tokens[0]), iter(tokens[1:])
    value, is_percentage = first.value, first.is_percentage
    for sign, token in zip(rest, rest, strict=True):
        factor = _amount(token)
        if sign.type != "literal" or sign.value not in ("*", "/") or (is_percentage and factor.is_percentage):
            raise NoAmount
        if sign.value == "/" and (factor.value == 0.0 or factor.is_percentage):
            raise NoAmount
        value = value / factor.value if sign.value == "/" else value * factor.value
        is_percentage |= factor.is_percentage
    return Amount(value, is_percentage)
