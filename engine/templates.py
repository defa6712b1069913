"""What a project may begin with: ordinary buildings that stand and pass, to be changed, or nothing."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from engine.demo import log_store
from engine.document import Document
from engine.document.base import Haunch
from engine.document.floors import FloorJig, FloorSections
from engine.document.jigs import Gable, HallJig, HallSections, Purlins, RoofBay


@dataclass(frozen=True)
class Template:
    """key: its name in the API; words: what it is, in one line; make: its document, without a name of its own."""

    key: str
    title: str
    words: str
    make: Callable[[], Document]


def _portal() -> Document:
    hall = HallJig(
        bays=[RoofBay(span=24.0, pitch=10.0)],
        purlins=Purlins(spacing=1.5, stay_every=2),
        sections=HallSections(columns="HEA 500", rafters="IPE 500", bracing="CHS 114.3x4"),
    )
    return Document(hall=hall)


def _haunched() -> Document:
    hall = HallJig(
        bays=[RoofBay(span=24.0, pitch=10.0)],
        eaves_haunch=Haunch(length=3.0, depth=0.4),
        purlins=Purlins(spacing=1.5, stay_every=2),
        rails=Purlins(spacing=1.8, stay_every=1),
        front=Gable(kind="posts", posts=3),
        back=Gable(kind="posts", posts=3),
        sections=HallSections(
            columns="IPE 600", rafters="IPE 500", gable_posts="HEA 260", gable_rafters="IPE 300", bracing="CHS 139.7x5"
        ),
    )
    return Document(hall=hall)


def _trussed() -> Document:
    hall = log_store().hall
    assert hall is not None and hall.rails is not None
    # what purlins and rails bear is the project's own to say
    plain = {
        "purlins": hall.purlins.model_copy(update={"table": ""}),
        "rails": hall.rails.model_copy(update={"table": ""}),
    }
    return Document(hall=hall.model_copy(update=plain))


def _two_bays() -> Document:
    hall = HallJig(
        bays=[RoofBay(span=18.0, pitch=8.0), RoofBay(span=18.0, pitch=8.0)],
        spacings=[6.0] * 5,
        purlins=Purlins(spacing=1.5, stay_every=2),
        sections=HallSections(columns="HEA 340", inner_columns="HEA 340", rafters="IPE 400", bracing="CHS 114.3x5"),
    )
    return Document(hall=hall)


def _mezzanine() -> Document:
    hall = HallJig(
        bays=[RoofBay(span=20.0, pitch=8.0)],
        spacings=[6.0] * 5,
        purlins=Purlins(spacing=1.5, stay_every=2),
        sections=HallSections(columns="HEA 400", rafters="IPE 450"),
    )
    floor = FloorJig(
        name="mezzanine",
        level=3.2,
        across=("A", "B"),
        along=("4", "6"),
        divide=4,
        imposed=3.0,
        sections=FloorSections(main_beams="IPE 360", joists="IPE 270", columns="HEA 160"),
    )
    return Document(hall=hall, jigs=[floor])


def _empty() -> Document:
    return Document()


TEMPLATES: dict[str, Template] = {
    t.key: t
    for t in (
        Template("portal", "Portal hall", "24 m span, rafters without haunches", _portal),
        Template("haunched", "Haunched portal hall", "24 m span, haunches at the eaves, gables on posts", _haunched),
        Template("trussed", "Trussed hall", "21 m span, roof trusses on fixed columns", _trussed),
        Template("two bays", "Hall of two bays", "18 + 18 m, a valley between them", _two_bays),
        Template("mezzanine", "Hall with a mezzanine", "20 m span, a floor over two fields", _mezzanine),
        Template("empty", "Empty", "Other jigs, or drawing by hand", _empty),
    )
}
