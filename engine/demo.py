"""Demo documents: invented places, people and climate values. Every building passes."""

from __future__ import annotations

from engine.document import Document
from engine.document.base import Haunch
from engine.document.byhand import MemberEdit
from engine.document.floors import FloorJig, FloorSections
from engine.document.jigs import BracedBays, Gable, HallBracing, HallJig, HallSections, Purlins, RoofBay, RoofTruss
from engine.document.rules import Rules, Site


def drying_hall() -> Document:
    """The drying hall of Sandmartin Sawmill, an invented firm on the invented river Ossel."""
    return Document(
        name="Sandmartin Sawmill · drying hall",
        hall=HallJig(
            bays=[RoofBay(span=24.0, pitch=10.0)],
            eaves_height=6.0,
            spacings=[6.0] * 7,
            bases="pinned",
            purlins=Purlins(spacing=1.5, stay_every=2),
            eaves_haunch=Haunch(length=3.0, depth=0.4),
            sections=HallSections(
                columns="IPE 550",
                rafters="IPE 450",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 100x5",
                bracing="CHS 114.3x4",
            ),
        ),
        site=Site(
            place="Ossel Ford (invented)", altitude=210.0, ground_snow=0.8, wind_speed=24.0, terrain="II", bearing=76.0
        ),
    )


def planer_shed() -> Document:
    """A planer shed on pinned feet; its sway governs the columns."""
    return Document(
        name="Sandmartin Sawmill · planer shed",
        hall=HallJig(
            bays=[RoofBay(span=20.0, pitch=8.0)],
            eaves_height=7.0,
            spacings=[6.5] * 5,
            bases="pinned",
            purlins=Purlins(spacing=1.6, stay_every=2),
            sections=HallSections(
                columns="HEA 450",
                rafters="IPE 500",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 120x5",
                bracing="CHS 114.3x5",
            ),
        ),
        site=Site(place="Upper Tarn (invented)", altitude=480.0, ground_snow=1.2, wind_speed=25.0, terrain="II"),
        rules=Rules(),
    )


def log_store() -> Document:
    """The log store: trusses on columns in place of rafters, rails on the walls."""
    return Document(
        name="Sandmartin Sawmill · log store",
        hall=HallJig(
            bays=[RoofBay(span=21.0, pitch=6.0)],
            eaves_height=6.5,
            spacings=[6.0] * 5,
            bases="fixed",
            truss=RoofTruss(pattern="Warren with posts", depth=1.4, panels=5, stay_every=2),
            purlins=Purlins(spacing=2.2, stay_every=0),
            rails=Purlins(spacing=1.7, stay_every=2),
            bracing=HallBracing(roof=BracedBays(), walls=BracedBays(), struts=True, panel=4.3),
            sections=HallSections(
                columns="HEA 220",
                top_chords="HEA 140",
                bottom_chords="HEA 120",
                webs="L 80x8",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 100x5",
                bracing="CHS 88.9x4",
                struts="CHS 88.9x4",
            ),
        ),
        site=Site(place="Ossel Ford (invented)", altitude=210.0, ground_snow=0.8, wind_speed=24.0, terrain="II"),
    )


def workshop() -> Document:
    """The workshop: two bays, a front gable on posts, and a mezzanine; edits by hand lie over its jigs."""
    return Document(
        name="Sandmartin Sawmill · workshop",
        hall=HallJig(
            bays=[RoofBay(span=15.0, pitch=8.0), RoofBay(span=12.0, pitch=8.0)],
            eaves_height=6.2,
            spacings=[6.0, 6.0, 6.0, 5.0],
            front=Gable(kind="posts", posts=5),
            purlins=Purlins(spacing=1.6, stay_every=2),
            rails=Purlins(spacing=1.8, stay_every=1),
            sections=HallSections(
                columns="HEA 340",
                inner_columns="HEA 340",
                rafters="IPE 400",
                gable_rafters="IPE 240",
                gable_posts="IPE 270",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 100x5",
                bracing="CHS 114.3x4",
            ),
        ),
        jigs=[
            FloorJig(
                name="mezzanine",
                level=3.1,
                across=("B", "C"),
                along=("3", "5"),
                divide=2,
                imposed=3.5,
                sections=FloorSections(main_beams="IPE 400", joists="IPE 240", columns="HEA 160"),
            )
        ],
        edits=[
            MemberEdit(member="frame-3/rafter-AB-left", group="crane bay"),
            MemberEdit(member="frame-3/rafter-AB-right", group="crane bay"),
        ],
        site=Site(place="Ossel Ford (invented)", altitude=210.0, ground_snow=0.8, wind_speed=24.0, terrain="II"),
    )


DEMOS = {"drying-hall": drying_hall, "planer-shed": planer_shed, "log-store": log_store, "workshop": workshop}
