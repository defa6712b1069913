"""Demo documents: invented places, people and climate values. Every building passes."""

from __future__ import annotations

from engine.demo_boiler_house import boiler_house
from engine.document import Document
from engine.document.base import Haunch
from engine.document.byhand import MemberEdit
from engine.document.floors import FloorJig, FloorSections
from engine.document.jigs import (
    BracedBays,
    ColdFormed,
    Gable,
    HallBracing,
    HallJig,
    HallSections,
    Purlins,
    RoofBay,
    RoofTruss,
)
from engine.document.rules import Rules, Sheeting, Site
from engine.document.secondary import LoadTable, SpanRow

#: the purlins and rails of the saw mill
HERON = "Heron Z 240/2.0"
#: of them: span, down, up and service in kN/m of a Z section with W = 72 cm³, I = 860 cm⁴, f_y = 350 N/mm² on two supports,
#: lifted at eight tenths of it
_BEARS = (
    (4.0, 12.60, 10.08, 10.84),
    (5.0, 8.06, 6.45, 5.55),
    (6.0, 5.60, 4.48, 3.21),
    (6.5, 4.77, 3.82, 2.53),
    (7.0, 4.11, 3.29, 2.02),
    (8.0, 3.15, 2.52, 1.35),
)


def purlin_table() -> LoadTable:
    """An invented profile of the saw mill's purlins and rails."""
    rows = [SpanRow(span=span, down=down, up=up, service=service) for span, down, up, service in _BEARS]
    source = "made up for the demonstration: W 72 cm³, I 860 cm⁴, f_y 350 N/mm², L/200"
    return LoadTable(
        name=HERON, source=source, held="sheeting on the outer flange", stiffness=1806.0, moment=25.2, rows=rows
    )


def drying_hall() -> Document:
    """The drying hall of Sandmartin Sawmill, an invented firm on the invented river Ossel."""
    return Document(
        name="Sandmartin Sawmill · drying hall",
        load_tables=[purlin_table()],
        hall=HallJig(
            bays=[RoofBay(span=24.0, pitch=10.0)],
            eaves_height=6.0,
            spacings=[6.0] * 7,
            bases="pinned",
            purlins=Purlins(spacing=1.5, stay_every=2, table=HERON),
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
            purlins=Purlins(spacing=1.6, stay_every=2, cold=ColdFormed(section="Z 250x2.5")),
            sections=HallSections(
                columns="HEA 450",
                rafters="IPE 500",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 120x5",
                bracing="CHS 114.3x5",
            ),
        ),
        site=Site(place="Upper Tarn (invented)", altitude=480.0, ground_snow=1.2, wind_speed=25.0, terrain="II"),
        rules=Rules(sheeting={"purlin": Sheeting(shear=4000.0, rotation=2.5)}),
    )


def log_store() -> Document:
    """The log store: trusses on columns in place of rafters, rails on the walls."""
    return Document(
        name="Sandmartin Sawmill · log store",
        load_tables=[purlin_table()],
        hall=HallJig(
            bays=[RoofBay(span=21.0, pitch=6.0)],
            eaves_height=6.5,
            spacings=[6.0] * 5,
            bases="fixed",
            truss=RoofTruss(pattern="Warren with posts", depth=1.4, panels=5, stay_every=2),
            purlins=Purlins(spacing=2.2, stay_every=0, table=HERON),
            rails=Purlins(spacing=1.7, stay_every=2, table=HERON),
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
        load_tables=[purlin_table()],
        hall=HallJig(
            bays=[RoofBay(span=15.0, pitch=8.0), RoofBay(span=12.0, pitch=8.0)],
            eaves_height=6.2,
            spacings=[6.0, 6.0, 6.0, 5.0],
            front=Gable(kind="posts", posts=5),
            purlins=Purlins(spacing=1.6, stay_every=2, table=HERON),
            rails=Purlins(spacing=1.8, stay_every=1, table=HERON),
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
        rules=Rules(floor_frequency=4.0),
        site=Site(place="Ossel Ford (invented)", altitude=210.0, ground_snow=0.8, wind_speed=24.0, terrain="II"),
    )


DEMOS = {
    "drying-hall": drying_hall,
    "planer-shed": planer_shed,
    "log-store": log_store,
    "workshop": workshop,
    "boiler-house": boiler_house,
}
