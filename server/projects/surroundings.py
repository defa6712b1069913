"""The building in its surroundings: what the Site stage draws."""

from __future__ import annotations

from engine.chain import Chain
from engine.report.surroundings import surroundings
from server.projects import action_schemas


def site_out(chain: Chain, revision: int) -> action_schemas.SiteOut | None:
    """None where no building stands that snow and wind act on."""
    found = surroundings(chain)
    if found is None:
        return None
    told = vars(found) | {
        "winds": [action_schemas.UpwindOut(**vars(one)) for one in found.winds],
        "idle": [action_schemas.IdleOut(**vars(one)) for one in found.idle],
        "snow": [action_schemas.LyingOut(**vars(one)) for one in found.snow],
    }
    return action_schemas.SiteOut(revision=revision, **told)
