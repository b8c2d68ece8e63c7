"""The only way out that a browser is given: a proxy that lets nothing through, and notes who knocked."""

from collections import deque
from urllib.parse import urlsplit

from redcrate.core.proof.local_server import LocalServer, QuietHandler

_MOST_NOTED = 1000


class ClosedDoor:
    """A proxy on 127.0.0.1 that refuses everything, and notes the hosts that were asked for."""

    def __init__(self) -> None:
        self._knocked: deque[str] = deque(maxlen=_MOST_NOTED)
        self._server = LocalServer(_handler(self._knocked))

    def heard(self) -> list[str]:
        """The hosts that were asked for since this was last asked, in order."""
        found = []
        while self._knocked:
            found.append(self._knocked.popleft())
        return found

    @property
    def address(self) -> str:
        """Host and port."""
        return self._server.address

    def close(self) -> None:
        """No longer answer."""
        self._server.close()


def _handler(knocked: deque[str]) -> type[QuietHandler]:
    class Refusing(QuietHandler):
        def refuse(self) -> None:
            host = self.path if self.command == "CONNECT" else urlsplit(self.path).netloc
            knocked.append(host)
            self.close_connection = True
            self.send_response(403)
            self.send_header("Content-Length", "0")
            self.send_header("Connection", "close")
            self.end_headers()

        do_GET = do_HEAD = do_POST = do_PUT = do_CONNECT = do_OPTIONS = refuse

    return Refusing
