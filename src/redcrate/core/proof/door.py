"""The only way out that a browser is given: a proxy that lets nothing through, and notes who knocked."""

from urllib.parse import urlsplit

from redcrate.core.proof.local_server import LocalServer, QuietHandler

_MOST_NOTED = 1000


class ClosedDoor:
    """A proxy on 127.0.0.1 that refuses everything. refused: the hosts that were asked for, in order."""

    def __init__(self) -> None:
        self.refused: list[str] = []
        self._server = LocalServer(_handler(self.refused))

    @property
    def address(self) -> str:
        """Host and port."""
        return self._server.address

    def close(self) -> None:
        """No longer answer."""
        self._server.close()


def _handler(refused: list[str]) -> type[QuietHandler]:
    class Refusing(QuietHandler):
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

    return Refusing
