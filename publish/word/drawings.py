"""Drawings for word processors, as pictures: not each of them knows the font that their words are in."""

from __future__ import annotations

import json
from collections.abc import Sequence

import typst

from publish.setting import FONTS

#: points of a picture per inch
SHARPNESS = 220
_PAGE = "#set page(width: auto, height: auto, margin: 0mm)\n#let all = json(bytes(sys.inputs.drawings))\n"


def pictures(drawings: Sequence[tuple[str, float]]) -> list[bytes]:
    """Drawings (SVG, width in mm) as PNG, in their order."""
    if not drawings:
        return []
    each = (f'#image(bytes(all.at({k})), format: "svg", width: {width:.2f}mm)' for k, (_, width) in enumerate(drawings))
    compiler = typst.Compiler(
        (_PAGE + "\n#pagebreak()\n".join(each)).encode(),
        font_paths=typst.Fonts(include_system_fonts=False, font_paths=[str(FONTS)]),
        sys_inputs={"drawings": json.dumps([svg for svg, _ in drawings], ensure_ascii=False)},
    )
    made = compiler.compile(format="png", ppi=SHARPNESS)
    assert made is not None
    return made if isinstance(made, list) else [made]
