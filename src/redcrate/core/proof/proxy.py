"""The only way out that a browser is given: a proxy that lets requests to a server of ours through, and nothing else.

This machine's own addresses are no exception: what listens there is not the page's to ask. Who was asked for is noted.
"""

import threading
from collections import deque
from collections.abc import Callable, Mapping
from urllib.parse import urlsplit

from redcrate.core.proof.local_server import Answer, LocalServer, QuietHandler

_MOST_NOTED = 1000
# What gives the answer to a request: its path, and what it is for (Sec-Fetch-Dest).
Origin = Callable[[str, str], Answer]


class GuardedProxy:
    """A proxy on 127.0.0.1 that refuses everything but one server, and notes the hosts that were asked for."""

    def __init__(self) -> None:
        self._asked: deque[str] = deque(maxlen=_MOST_NOTED)
        self._lock = threading.Lock()
        self._origins: Mapping[str, Origin] = {}
        self._server = LocalServer(_handler(self))

    def let_through(self, origins: Mapping[str, Origin]) -> None:
        """From now on requests to these hosts and ports are answered, and to no others."""
        with self._lock:
            self._origins = dict(origins)

    def heard(self) -> list[str]:
        """The hosts that were asked for in vain since this was last asked, in order."""
        found = []
        while self._asked:
            found.append(self._asked.popleft())
        return found

    @property
    def address(self) -> str:
        """Host and port."""
        return self._server.address

    def close(self) -> None:
        """No longer answer."""
        self._server.close()

    def origin(self, host: str) -> Origin | None:
        """Who answers for a host; None where nobody does: that is noted."""
        with self._lock:
            found = self._origins.get(host)
        if found is None:
            self._asked.append(host)
        return found


def _handler(proxy: GuardedProxy) -> type[QuietHandler]:
    class Guarding(QuietHandler):
        def do_GET(self) -> None:
            parts = urlsplit(self.path)
            origin = proxy.origin(parts.netloc)
            if origin is None or parts.scheme != "http":
                self.refuse()
                return
            path = f"{parts.path}?{parts.query}" if parts.query else parts.path
            self.give(origin(path, self.headers.get("Sec-Fetch-Dest", "")))

        def do_other(self) -> None:
            proxy.origin(self.path if self.command == "CONNECT" else urlsplit(self.path).netloc)
            self.refuse()

        def refuse(self) -> None:
            self.close_connection = True
            self.give(Answer(403, "text/plain", b""))

        do_HEAD = do_POST = do_PUT = do_DELETE = do_PATCH = do_CONNECT = do_OPTIONS = do_other

    return Guarding
