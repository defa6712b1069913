"""Headless: a document to its dossier or to files of others, a file of others to a document."""

from __future__ import annotations

import sys


def main(arguments: list[str] | None = None) -> int:
    """The part that is asked for; 0 when it worked, 2 for input that cannot be used."""
    given = sys.argv[1:] if arguments is None else arguments
    # who takes a file in waits for it in front of a page: nothing of the analysis is imported for that
    if given[:1] == ["take"]:
        from publish.take import main as part
    elif given[:1] == ["returned"]:
        from publish.ifc.returned import main as part
    else:
        from publish.reporting import main as part
    return part(given)


if __name__ == "__main__":
    sys.exit(main())
