"""A WebDriver server of our own (W3C WebDriver), as a program: answers as the standard says, or fails as it is told.

REDCRATE_DRIVER: how it behaves. REDCRATE_ANSWERS: a JSON file with what the script for measuring gives, by width.
It starts a process that stands for a browser, away in a session of its own, as real ones are.
"""

import base64
import http.client
import json
import os
import struct
import subprocess
import sys
import time
import zlib
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any

MANNER = os.environ.get("REDCRATE_DRIVER", "")
ELEMENT = "element-6066-11e4-a52e-4f735466cecf"  # WebDriver §12: the key of an element


def picture(side: int, grey: int) -> bytes:
    """A PNG of one grey."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = chunk(b"IHDR", struct.pack(">IIBBBBB", side, side, 8, 0, 0, 0, 0))
    rows = chunk(b"IDAT", zlib.compress((b"\0" + bytes([grey]) * side) * side))
    return b"\x89PNG\r\n\x1a\n" + head + rows + chunk(b"IEND", b"")


class Failed(Exception):
    """An error of the standard: its code and message."""


class Driver:
    """One session. asked: what was asked for at its start."""

    def __init__(self) -> None:
        self.asked: dict[str, Any] = {}
        self.timeout = 30.0
        self.width = 0.0

    def answer(self, method: str, path: list[str], body: dict[str, Any]) -> Any:
        """The value for a command."""
        if path == ["session"]:
            return self.new_session(body)
        command = path[2:]
        if command == ["timeouts"]:
            self.timeout = body.get("script", self.timeout * 1000) / 1000
        elif command == ["url"]:
            assert _get(body["url"]).status == 200
        elif command == ["execute", "async"]:
            return self.script(body["args"])
        elif command == ["execute", "sync"]:
            return "the boxes of the page"
        elif command == ["element"]:
            return {ELEMENT: "frame"}
        elif command[-1] == "rect":
            return {"x": 0, "y": 0, "width": 500, "height": 800}
        elif command[-1] == "screenshot":
            return base64.b64encode(picture(60, 90)).decode()
        return None

    def new_session(self, body: dict[str, Any]) -> Any:
        """§8.1."""
        if MANNER == "mismatch":
            raise Failed("session not created", "this driver is for version 1 only\nat some address")
        if MANNER == "babbles":
            return {}
        self.asked = body["capabilities"]["firstMatch"][0] | body["capabilities"].get("alwaysMatch", {})
        profile = next(a for a in self.asked["goog:chromeOptions"]["args"] if "user-data-dir" in a)
        subprocess.Popen(
            [sys.executable, "-c", "import time; time.sleep(600)", profile], start_new_session=True
        )
        return {"sessionId": "one", "capabilities": {"browserVersion": "7.5.1", "browserName": "small"}}

    def script(self, given: list[Any]) -> Any:
        """§13.2: the script that knocks at the door, the one that opens a page, or the one that measures it."""
        if len(given) == 1:
            if MANNER != "leaky":
                door = http.client.HTTPConnection(self.asked["proxy"]["httpProxy"])
                door.request("GET", f"http://{given[0]}/")
                assert door.getresponse().status == 403
            return True
        if len(given) == 4:
            address, self.width, *_ = given
            assert b"<" in _get(address).read()
            return True
        if MANNER == "dies":
            os._exit(1)
        if MANNER == "hangs":
            time.sleep(600)
        if MANNER == "never loads":
            time.sleep(self.timeout)
            raise Failed("script timeout", "it took too long")
        if MANNER == "mumbles":
            return {"elements": [["html"]]}
        answers = json.loads(Path(os.environ["REDCRATE_ANSWERS"]).read_text(encoding="utf-8"))
        return answers[f"{self.width:g}"]


def _get(address: str) -> http.client.HTTPResponse:
    _, _, host, path = address.split("/", 3)
    connection = http.client.HTTPConnection(host)
    connection.request("GET", f"/{path}")
    return connection.getresponse()


DRIVER = Driver()


class Handler(BaseHTTPRequestHandler):
    def answer(self) -> None:
        """§6: one command, one JSON object."""
        size = int(self.headers.get("Content-Length") or 0)
        body = json.loads(self.rfile.read(size) or b"{}")
        try:
            status, value = 200, DRIVER.answer(self.command, self.path.strip("/").split("/"), body)
        except Failed as failed:
            status, value = 500, {"error": failed.args[0], "message": failed.args[1], "stacktrace": ""}
        data = json.dumps({"value": value}).encode()
        self.send_response(status)
        self.send_header("Content-Type", "application/json; charset=utf-8")
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)

    do_GET = do_POST = do_DELETE = answer

    def log_message(self, format: str, *args: object) -> None:
        """Nothing is printed."""


if __name__ == "__main__":
    if MANNER == "does not start":
        sys.exit(1)
    port = next(int(a.removeprefix("--port=")) for a in sys.argv if a.startswith("--port="))
    ThreadingHTTPServer(("127.0.0.1", port), Handler).serve_forever()
