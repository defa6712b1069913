"""Formulas: the LaTeX of proofs, a small part of the language, as Typst's mathematics."""

from __future__ import annotations

import re

#: control words as Typst writes them; "" is dropped
_WORDS = {
    "cdot": "dot.op",
    "le": "lt.eq",
    "ge": "gt.eq",
    "max": "max",
    "min": "min",
    "pi": "pi",
    "alpha": "alpha",
    "theta": "theta",
    "varphi": "phi.alt",
    "beta": "beta",
    "gamma": "gamma",
    "chi": "chi",
    "eta": "eta",
    "lambda": "lambda",
    "Phi": "Phi",
    "mu": "mu",
    "psi": "psi",
    "xi": "xi",
    "cos": "cos",
    "ln": "ln",
    "circ": "degree",
    "rho": "rho",
    "sigma": "sigma",
    "Delta": "Delta",
    "tau": "tau",
    "varepsilon": "epsilon",
    "ell": "ell",
    "left": "",
    "right": "",
}
_TOKEN = re.compile(r"\\([A-Za-z]+)|\\(.)|([{}^_])|(\d+(?:\.\d+)?)|([A-Za-z])|(\s+)|(.)")


class _Reader:
    """Reads LaTeX from its start."""

    def __init__(self, text: str) -> None:
        self.tokens = list(_TOKEN.finditer(text))
        self.at = 0

    def expression(self, closing: bool) -> str:
        """What stands up to the end, or the closing brace."""
        parts: list[str] = []
        while self.at < len(self.tokens):
            if self.tokens[self.at][3] == "}":
                if not closing:
                    raise ValueError("a brace is closed that was not opened")
                self.at += 1
                return _joined(parts)
            parts.append(self.piece())
        if closing:
            raise ValueError("a brace is not closed")
        return _joined(parts)

    def piece(self) -> str:
        """The next piece."""
        token = self.tokens[self.at]
        self.at += 1
        word, sign, special, number, letter, blank, other = token.groups()
        if word is not None:
            return self.control(word)
        if sign is not None:
            if sign not in ", ;":
                raise ValueError(f"\\{sign} is not known")
            return "thin" if sign == "," else "space"
        if special in ("^", "_"):
            return f"{special}({self.argument()})"
        if special == "{":
            return f"{self.expression(True)}"
        if number is not None:
            return number
        if letter is not None:
            return letter
        if blank is not None:
            return ""
        if other in "/\\#$&\"@'*`~":
            return {"/": "slash"}.get(other, f"\\{other}")
        return {"·": "dot.op", "–": '"–"', "²": "^2", "³": "^3", "⁴": "^4", "⁶": "^6"}.get(other, other)

    def argument(self) -> str:
        """What a control word or a sub- or superscript takes."""
        while self.tokens[self.at][6] is not None:
            self.at += 1
        found = self.piece()
        return found.strip()

    def raw(self) -> str:
        """The text between braces as it stands."""
        depth, parts = 0, []
        while self.at < len(self.tokens):
            text = self.tokens[self.at][0]
            self.at += 1
            depth += (text == "{") - (text == "}")
            if text not in "{}" or not text:
                parts.append({"\\,": " ", "\\ ": " "}.get(text, text))
            if depth == 0:
                break
        return "".join(parts)

    def control(self, word: str) -> str:
        if word == "dfrac":
            above = self.argument()
            return f"frac({above}, {self.argument()})"
        if word == "sqrt" and self.at + 2 < len(self.tokens) and self.tokens[self.at][0] == "[":
            index = self.tokens[self.at + 1][0]
            self.at += 3
            return f"root({index}, {self.argument()})"
        if word == "sqrt":
            return f"sqrt({self.argument()})"
        if word == "bar":
            return f"overline({self.argument()})"
        if word in ("mathrm", "text"):
            return upright(self.raw())
        if word in _WORDS:
            return _WORDS[word]
        raise ValueError(f"\\{word} is not known")


def _joined(parts: list[str]) -> str:
    """Pieces on end; what is raised or lowered stays with what stands before it."""
    return re.sub(r" (?=[_^]\()", "", " ".join(part for part in parts if part))


def upright(text: str) -> str:
    """Words in a formula; digits after ^ are raised."""
    parts = re.split(r"\^\{?(-?\d+)\}?", text)
    found = []
    for k in range(0, len(parts), 2):
        raised = f"^({parts[k + 1]})" if k + 1 < len(parts) else ""
        if parts[k] or raised:
            found.append(f'upright("{parts[k]}"){raised}')
    return " ".join(found)


def typst_math(latex: str) -> str:
    """LaTeX as Typst's mathematics. Raises ValueError for what it does not know. Subscripts of several letters are upright,
    as units and words are."""
    text = re.sub(r"_\{([A-Za-z0-9,.\\ ]+?)\}", _subscript, latex)
    text = re.sub(r"_([A-Za-z])(?![A-Za-z])", r"_{\\text{\1}}", text)
    return _Reader(text).expression(False)


def _subscript(match: re.Match[str]) -> str:
    words = match[1].replace(r"\,", " ")
    return rf"_{{\text{{{words}}}}}" if "\\" not in words else match[0]
