"""A server on this machine's own address, in threads of its own, that says nothing on the terminal."""

import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any


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

    def log_message(self, format: str, *args: object) -> None:
        """Nothing is printed."""
