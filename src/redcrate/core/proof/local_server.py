"""A server on this machine's own address, in threads of its own, that says nothing on the terminal."""

import threading
from collections.abc import Mapping
from dataclasses import field
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Answer:
    """What a request gets: status, kind of content, content, and further headers."""

    status: int
    kind: str
    data: bytes
    headers: Mapping[str, str] = field(default_factory=dict)


class LocalServer(ThreadingHTTPServer):
    """Listens on 127.0.0.1, at a port that was free."""

    daemon_threads = True

    def __init__(self, handler: type[BaseHTTPRequestHandler]) -> None:
        super().__init__(("127.0.0.1", 0), handler)
        threading.Thread(target=self.serve_forever, args=(0.05,), daemon=True).start()

    @property
    def address(self) -> str:
        """Host and port."""
        return f"127.0.0.1:{self.server_port}"

    def handle_error(self, request: Any, client_address: Any) -> None:
        """Whoever asked went away."""

    def close(self) -> None:
        """No longer answer."""
        self.shutdown()
        self.server_close()


class QuietHandler(BaseHTTPRequestHandler):
    """A handler of requests that prints nothing."""

    protocol_version = "HTTP/1.1"
    timeout = 60

    def log_message(self, format: str, *args: object) -> None:
        """Nothing is printed."""

    def give(self, answer: Answer) -> None:
        """Send an answer; it is never kept by who gets it, and taken for nothing but what it says."""
        self.send_response(answer.status)
        self.send_header("Content-Type", answer.kind)
        self.send_header("Content-Length", str(len(answer.data)))
        self.send_header("Cache-Control", "no-store")
        self.send_header("X-Content-Type-Options", "nosniff")
        self.send_header("Referrer-Policy", "no-referrer")  # the path is nobody else's to know
        for name, value in answer.headers.items():
            self.send_header(name, value)
        self.end_headers()
        self.wfile.write(answer.data)
