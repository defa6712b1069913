"""The stand-in detailing office: POST /orders with an IFC4 file, POST /orders/NUMBER/forces with those at its joints
(CSV), GET /orders/NUMBER/model for what became of it.

It answers as an outside service would: 201 with the number of the order and what was done, 200 with the file, 400 for a body that is no
IFC4 file, 404 for an order that it does not know (it remembers the last ones), 413 for one that is too large.
"""

from __future__ import annotations

import argparse
import csv
import json
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

from detailing.changes import detailed

OFFICE = "Tarnbeck Steel Detailing (invented)"
#: bytes of a model that is taken, and orders that are remembered
LARGEST, REMEMBERED = 100_000_000, 8


class Handler(BaseHTTPRequestHandler):
    """Takes orders and gives models back; says nothing on the console."""

    orders: dict[str, str] = {}
    lock = threading.Lock()
    count = 0

    def do_POST(self) -> None:
        """Detail what is sent."""
        length = int(self.headers.get("Content-Length") or 0)
        known = self.known("forces")
        if self.path != "/orders" and known is None:
            self.say(404, {"message": "There is nothing at this address."})
        elif length > LARGEST:
            self.say(413, {"message": f"The file is larger than {LARGEST // 1_000_000} MB."})
        elif known is not None:
            ends = {tuple(row[:6]) for row in csv.reader(self.rfile.read(length).decode().splitlines()[1:])}
            self.say(200, {"done": [f"Forces at {len(ends)} ends of members are with the joints' designer"]})
        else:
            self.order(self.rfile.read(length))

    def known(self, what: str) -> str | None:
        """The model of the order that an address asks something of; None where there is none."""
        parts = self.path.strip("/").split("/")
        asked = len(parts) == 3 and parts[0] == "orders" and parts[2] == what
        return self.orders.get(parts[1]) if asked else None

    def order(self, data: bytes) -> None:
        """Detail a model, and remember it."""
        try:
            text, done = detailed(data.decode())
        except (RuntimeError, ValueError, AttributeError, TypeError, IndexError) as error:
            self.say(400, {"message": f"This is no model that can be detailed ({type(error).__name__})."})
            return
        with self.lock:
            Handler.count += 1
            number = f"T-{Handler.count}"
            self.orders[number] = text
            for old in list(self.orders)[:-REMEMBERED]:
                del self.orders[old]
        self.say(201, {"order": number, "office": OFFICE, "done": done})

    def do_GET(self) -> None:
        """Give a model back."""
        model = self.known("model")
        if model is None:
            self.say(404, {"message": "There is no such order."})
        else:
            self.give(200, "application/x-step", model.encode())

    def say(self, status: int, body: dict[str, object]) -> None:
        """Answer with JSON."""
        self.give(status, "application/json; charset=utf-8", json.dumps(body, ensure_ascii=False).encode())

    def give(self, status: int, kind: str, data: bytes) -> None:
        """Answer with bytes."""
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)

    def log_message(self, *args: object) -> None:
        """Keep quiet."""


def make(port: int = 0) -> ThreadingHTTPServer:
    """The service on loopback, not yet serving; port 0 takes a free one."""
    return ThreadingHTTPServer(("127.0.0.1", port), Handler)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description="The stand-in detailing office")
    parser.add_argument("--port", type=int, required=True)
    make(parser.parse_args().port).serve_forever()
