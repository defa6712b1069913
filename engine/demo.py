"""Demo documents: invented places, people and climate values."""

from __future__ import annotations

from engine.document import Document
from engine.document.jigs import HallJig, HallSections, Purlins, RoofBay
from engine.document.rules import Rules, Site


def drying_hall() -> Document:
    """The drying hall of Sandmartin Sawmill, an invented firm on the invented river Ossel: passes throughout."""
    return Document(
        name="Sandmartin Sawmill · drying hall",
        hall=HallJig(
            bays=[RoofBay(span=24.0, pitch=10.0)],
            eaves_height=6.0,
            spacings=[6.0] * 7,
            bases="pinned",
            purlins=Purlins(spacing=1.5, stay_every=2),
            sections=HallSections(
                columns="HEA 450",
                rafters="IPE 500",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 100x5",
                bracing="CHS 114.3x4",
            ),
        ),
        site=Site(place="Ossel Ford (invented)", altitude=210.0, ground_snow=0.8, wind_speed=24.0, terrain="II"),
    )


def failing_hall() -> Document:
    """A planer shed that fails in three ways: rafters sideways without stays, the eaves in sway, roof braces in buckling."""
    return Document(
        name="Sandmartin Sawmill · planer shed (fails)",
        hall=HallJig(
            bays=[RoofBay(span=20.0, pitch=8.0)],
            eaves_height=7.0,
            spacings=[6.5] * 5,
            bases="pinned",
            purlins=Purlins(spacing=1.6, stay_every=0),
            sections=HallSections(
                columns="HEA 340",
                rafters="IPE 450",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 120x5",
                bracing="CHS 88.9x4",
            ),
        ),
        site=Site(place="Upper Tarn (invented)", altitude=480.0, ground_snow=1.2, wind_speed=25.0, terrain="II"),
        rules=Rules(),
    )


DEMOS = {"drying-hall": drying_hall, "planer-shed": failing_hall}
