"""The only way out that a browser is given: a proxy that lets nothing through, and notes who knocked."""

import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import urlsplit

_MOST_NOTED = 1000


class ClosedDoor:
    """A proxy on 127.0.0.1 that refuses everything. refused: the hosts that were asked for, in order."""

    def __init__(self) -> None:
        self.refused: list[str] = []
        self._server = ThreadingHTTPServer(("127.0.0.1", 0), _handler(self.refused))
        self._server.daemon_threads = True
        threading.Thread(target=self._server.serve_forever, args=(0.05,), daemon=True).start()

    @property
    def address(self) -> str:
        """Host and port."""
        return f"127.0.0.1:{self._server.server_port}"

    def close(self) -> None:
        """No longer answer."""
        self._server.shutdown()
        self._server.server_close()


def _handler(refused: list[str]) -> type[BaseHTTPRequestHandler]:
    class Refusing(BaseHTTPRequestHandler):
        def refuse(self) -> None:
            host = self.path if self.command == "CONNECT" else urlsplit(self.path).netloc
            if len(refused) < _MOST_NOTED:
                refused.append(host)
            self.close_connection = True
            self.send_response(403)
            self.send_header("Content-Length", "0")
            self.send_header("Connection", "close")
            self.end_headers()

        do_GET = do_HEAD = do_POST = do_PUT = do_CONNECT = do_OPTIONS = refuse

        def log_message(self, format: str, *args: object) -> None:
            """Nothing is printed."""

    return Refusing
