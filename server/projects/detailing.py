"""The office that details steel, which is somebody else's: it may refuse a model, and it may be down."""

from __future__ import annotations

import json
import urllib.error
import urllib.parse
import urllib.request

from django.conf import settings

from engine.errors import ModelError

TIMEOUT = 60.0
#: bytes that are taken from it
LARGEST = 100_000_000


def ordered(model: bytes, forces: bytes) -> tuple[str, bytes, list[str]]:
    """Send a model to be detailed, and the forces at its joints as CSV: the order's name, the model that came back, what was done in words. Raises ModelError."""
    if not settings.DETAILING_URL:
        raise ModelError("No office that details steel is set up; send it the model as a file, and take its file back.")
    try:
        answer = json.loads(_ask("/orders", model))
        number = urllib.parse.quote(str(answer["order"]), safe="")
        said = json.loads(_ask(f"/orders/{number}/forces", forces))
        came = _ask(f"/orders/{number}/model")
        done = [str(words)[:300] for words in (*answer["done"], *said["done"])][:50]
        return f"{answer['order']} of {answer['office']}"[:120], came, done
    except ModelError:
        raise
    except (ValueError, KeyError, TypeError) as error:
        raise ModelError(
            "The detailing office answers in a way that is not understood. Nothing was changed."
        ) from error


def _ask(path: str, body: bytes | None = None) -> bytes:
    try:
        with urllib.request.urlopen(settings.DETAILING_URL + path, body, timeout=TIMEOUT) as response:
            data: bytes = response.read(LARGEST + 1)
    except urllib.error.HTTPError as error:
        try:
            words = str(json.load(error)["message"])
        except (ValueError, KeyError, TypeError):
            words = f"It answered {error.code}."
        raise ModelError(f"The detailing office refused the model: {words}") from error
    except OSError as error:
        raise ModelError("The detailing office does not answer. Nothing was changed; try again later.") from error
    if len(data) > LARGEST:
        raise ModelError(f"What the detailing office sends is larger than {LARGEST // 1_000_000} MB.")
    return data
