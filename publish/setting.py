"""What sets pages in type, a process of its own: `setting.py FOLDER`. The folder holds the template as page.typ, its data as data.json and pictures; what
is written beside them is pages.pdf and places.json. Typst keeps some 3 MB a page until its process ends, and cannot be interrupted within it."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import typst

FONTS = Path(__file__).with_name("fonts")


def main() -> None:
    """Set the folder of the only argument in type."""
    folder = Path(sys.argv[1])
    # the template reads what lies beside it, and nothing else
    compiler = typst.Compiler(
        str(folder / "page.typ"),
        root=str(folder),
        font_paths=[str(FONTS)],
        ignore_system_fonts=True,
        sys_inputs={"data": (folder / "data.json").read_text(encoding="utf-8")},
    )
    # marks of what each word is would take seven times the room of all the rest
    pdf = compiler.compile(format="pdf", pdf_tags=False)
    assert isinstance(pdf, bytes)
    (folder / "pages.pdf").write_bytes(pdf)
    places, count = (json.loads(compiler.query(f"<{name}>", field="value")) for name in ("place", "count"))
    found = {"places": places, "count": int(count[0]), "memory": _most()}
    (folder / "places.json").write_text(json.dumps(found))


def _most() -> float:
    """The most that this process has had in memory, MB; 0 where the system does not say."""
    status = Path("/proc/self/status")
    said = status.read_text().splitlines() if status.exists() else []
    return next((float(line.split()[1]) / 1024 for line in said if line.startswith("VmHWM")), 0.0)


if __name__ == "__main__":
    main()
