"""The stand-in climate service: GET /places?name=… and GET /places/NAME?altitude=….

It answers JSON as an outside service would: 200 with the values, 404 with the names that come near to an unknown place,
400 for an altitude that is none. All places and values are invented.
"""

from __future__ import annotations

import argparse
import csv
import difflib
import json
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any
from urllib.parse import parse_qs, unquote, urlsplit

SOURCE = "Ossel Valley Climate Office (invented), table of 2024"


def places() -> dict[str, dict[str, str]]:
    """The places by their name in lower case."""
    with (Path(__file__).parent / "places.csv").open(encoding="utf-8") as file:
        return {row["name"].lower(): row for row in csv.DictReader(file)}


def ground_snow(row: dict[str, str], altitude: float) -> float:
    """s_k in kN/m² at an altitude: s_0 (1 + (A / A_0)²), the invented region's own rule."""
    return float(row["snow_at_0"]) * (1 + (max(altitude, 0.0) / float(row["snow_reference"])) ** 2)


def answer(path: str) -> tuple[int, dict[str, Any]]:
    """Status and body for a request's path."""
    url = urlsplit(path)
    query = parse_qs(url.query)
    known = places()
    if url.path == "/places":
        part = query.get("name", [""])[0].lower()
        return 200, {"places": [row["name"] for key, row in known.items() if part in key]}
    if not url.path.startswith("/places/"):
        return 404, {"message": "There is nothing at this address."}
    name = unquote(url.path.removeprefix("/places/")).strip().lower().removesuffix("(invented)").strip()
    if name not in known:
        near = [known[key]["name"] for key in difflib.get_close_matches(name, known, n=3, cutoff=0.5)]
        return 404, {"message": "Unknown place.", "near": near}
    row = known[name]
    try:
        altitude = float(query.get("altitude", [row["altitude"]])[0])
        if not -100 <= altitude <= 3000:
            raise ValueError
    except ValueError:
        return 400, {"message": "The altitude must be a number of metres between −100 and 3000."}
    return 200, {
        "place": row["name"],
        "region": row["region"],
        "x_km": float(row["x"]),
        "y_km": float(row["y"]),
        "altitude": altitude,
        "ground_snow": round(ground_snow(row, altitude), 2),
        "wind_speed": float(row["wind"]),
        "terrain": row["terrain"],
        "source": SOURCE,
    }


class Handler(BaseHTTPRequestHandler):
    """Answers GET requests; says nothing on the console."""

    def do_GET(self) -> None:
        """Answer with JSON."""
        status, body = answer(self.path)
        data = json.dumps(body, ensure_ascii=False).encode()
        self.send_response(status)
        self.send_header("Content-Type", "application/json; charset=utf-8")
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)

    def log_message(self, *args: object) -> None:
        """Keep quiet."""


def make(port: int = 0) -> ThreadingHTTPServer:
    """The service on loopback, not yet serving; port 0 takes a free one."""
    return ThreadingHTTPServer(("127.0.0.1", port), Handler)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description="The stand-in climate service")
    parser.add_argument("--port", type=int, required=True)
    make(parser.parse_args().port).serve_forever()
