"""Site values from the climate service, which is somebody else's: it may not know a place, and it may be down."""

from __future__ import annotations

import json
import urllib.error
import urllib.parse
import urllib.request

from django.conf import settings

from engine.errors import ModelError
from server.projects import catalogue_schemas

TIMEOUT = 4.0


def _ask(path: str) -> tuple[int, dict[str, object]]:
    if not settings.CLIMATE_URL:
        raise ModelError("No climate service is set up; enter the site's values by hand.", "site.place")
    try:
        with urllib.request.urlopen(settings.CLIMATE_URL + path, timeout=TIMEOUT) as response:
            return response.status, json.load(response)
    except urllib.error.HTTPError as error:
        return error.code, json.load(error)
    except (OSError, ValueError) as error:
        raise ModelError(
            "The climate service does not answer; the site's values stay as they are. Try again, or enter them by hand.",
            "site.place",
        ) from error


def site_values(place: str, altitude: float | None) -> catalogue_schemas.ClimateOut:
    """Ground snow, basic wind and altitude of a place. Raises ModelError when it is unknown or the service is down."""
    query = "" if altitude is None else "?" + urllib.parse.urlencode({"altitude": altitude})
    status, body = _ask("/places/" + urllib.parse.quote(place.strip(), safe="") + query)
    if status == 404:
        near = [str(name) for name in body.get("near", [])]  # type: ignore[attr-defined]
        words = f" Near to it: {', '.join(near)}." if near else ""
        raise ModelError(f"The climate service knows no place “{place}”.{words}", "site.place")
    if status != 200:
        raise ModelError(str(body.get("message", "The climate service refused the question.")), "site.place")
    return catalogue_schemas.ClimateOut.model_validate(body)


def place_names(part: str) -> list[str]:
    """Places whose name holds these letters; none when the service is down."""
    try:
        _, body = _ask("/places?" + urllib.parse.urlencode({"name": part}))
    except ModelError:
        return []
    return [str(name) for name in body.get("places", [])]  # type: ignore[attr-defined]
