"""The value of a formula of the proofs: the little LaTeX that they are written in, read by recursive descent."""

import re
from math import log, pi, sqrt

UNITS = {
    "m": 1.0,
    "mm": 1e-3,
    "cm²": 1e-4,
    "cm³": 1e-6,
    "cm⁴": 1e-8,
    "cm⁶": 1e-12,
    "kN": 1e3,
    "kNm": 1e3,
    "N/mm²": 1e6,
    "kNm²": 1e3,
    "1/m": 1.0,
    "mrad": 1e-3,
    "kN/m²": 1e3,
    "kN/m³": 1e3,
    "kg/m³": 1.0,
    "m/s": 1.0,
    "m²": 1.0,
    "°": 1.0,
    "": 1.0,
}

_TOKEN = re.compile(
    r"<(?P<name>\w+)>|(?P<number>\d+(?:\.\d+)?)|\\mathrm\{(?P<unit>[^}]*)\}|\\(?P<word>[a-z]+)|(?P<sign>[-+/^(){}\[\]|,])"
)
_IGNORED = {"left", "right", "cdot"}


class _Reader:
    def __init__(self, formula, values):
        # angles are in degrees throughout
        text = formula.replace(r"\,", " ").replace(r"\ ", " ").replace(r"^\circ", "")
        found = [m for m in _TOKEN.finditer(text) if m["word"] not in _IGNORED]
        self.tokens, self.values, self.at = found, values, 0

    def peek(self):
        m = self.tokens[self.at] if self.at < len(self.tokens) else None
        return (m["word"] or m["sign"] or "value") if m else "end"

    def take(self, expected=None):
        m = self.tokens[self.at]
        self.at += 1
        assert expected is None or m[0] == expected, f"{m[0]} in place of {expected}"
        return m

    def bounded(self):
        """A value, and what it is at most or at least."""
        found = self.sum()
        while self.peek() in ("le", "ge"):
            pick = min if self.take()["word"] == "le" else max
            found = pick(found, self.sum())
        return found

    def sum(self):
        found = -self.product() if self.peek() == "-" and self.take() else self.product()
        while self.peek() in ("+", "-"):
            sign = 1 if self.take()[0] == "+" else -1
            found += sign * self.product()
        return found

    def product(self):
        found = self.power()
        while self.peek() in ("value", "(", "[", "dfrac", "sqrt", "pi", "/", "min", "max", "ln"):
            found = found / self.power() if self.peek() == "/" and self.take() else found * self.power()
        return found

    def power(self):
        found = self.single()
        while self.peek() == "^":
            self.take()
            found **= self.group()
        return found

    def group(self):
        """What stands in braces, or the one thing that follows."""
        if self.peek() != "{":
            return self.single()
        return self.between("{", "}")

    def between(self, opening, closing):
        self.take(opening)
        found = self.sum()
        self.take(closing)
        return found

    def single(self):
        kind = self.peek()
        if kind in ("(", "["):
            return self.between(kind, ")" if kind == "(" else "]")
        if kind == "|":
            return abs(self.between("|", "|"))
        m = self.take()
        if kind == "pi":
            return pi
        if kind == "dfrac":
            above = self.group()
            return above / self.group()
        if kind == "sqrt":
            root = 2.0
            if self.peek() == "[":
                root = self.between("[", "]")
            inner = self.group()
            return sqrt(inner) if root == 2 else inner ** (1 / root)
        if kind == "ln":
            return log(self.single())
        if kind in ("min", "max"):
            self.take("(")
            found = [self.sum()]
            while self.peek() == ",":
                self.take()
                found.append(self.sum())
            self.take(")")
            return (min if kind == "min" else max)(found)
        if m["name"]:
            return self.values[m["name"]]
        if m["unit"] is not None:
            return UNITS[m["unit"].replace("^2", "²").replace("^3", "³").replace("^4", "⁴").replace("^6", "⁶")]
        number = float(m["number"])
        if self.at < len(self.tokens) and self.tokens[self.at]["unit"] is not None:
            # a unit belongs to its number, before anything divides
            number *= self.single()
        return number


def value(formula, values):
    """The value of a formula with <names>, in SI."""
    reader = _Reader(formula, values)
    found = reader.bounded()
    assert reader.peek() == "end", f"{formula} is not read to its end"
    return found
