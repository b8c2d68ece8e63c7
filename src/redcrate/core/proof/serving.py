"""A small server for a page that is open: on 127.0.0.1 alone, below a path that nobody can guess, for reading only."""

import mimetypes
import secrets
import threading
from importlib.resources import files
from urllib.parse import unquote, urlsplit

from redcrate.core.proof.local_server import LocalServer, QuietHandler
from redcrate.core.proof.page_files import PageFiles

_WAIT = 15.0  # s: how long a browser waits for news before it is told that there are none
_SHELL = b"<!doctype html>\n<title>Red Crate</title>\n<style>html, body { margin: 0 }</style>\n<body>\n"


class PageServer:
    """Serves one page's files as they were last shown to it."""

    def __init__(self, shown: PageFiles) -> None:
        self._shown = shown
        self._news = threading.Condition()
        self._version = 0
        self._closed = False
        self._token = secrets.token_urlsafe(24)
        self._server = LocalServer(_handler(self))

    @property
    def host(self) -> str:
        """Host and port: what a request must ask for."""
        return self._server.address

    @property
    def base(self) -> str:
        """What all addresses begin with."""
        return f"http://{self.host}/{self._token}/"

    @property
    def page(self) -> str:
        """The address of the page."""
        return f"{self.base}page/{self._shown.address}"

    @property
    def shell(self) -> str:
        """The address of an empty page of ours, in which a page is measured."""
        return f"{self.base}shell"

    @property
    def preview(self) -> str:
        """The address at which the page is seen, and seen anew after each edit."""
        return f"{self.base}preview"

    def show(self, shown: PageFiles) -> None:
        """Serve other bytes from now on; whoever looks is told."""
        with self._news:
            self._shown = shown
            self._version += 1
            self._news.notify_all()

    def close(self) -> None:
        """No longer answer."""
        with self._news:
            self._closed = True
            self._news.notify_all()
        self._server.close()

    # -- what is answered

    def answer(self, path: str, host: str) -> tuple[int, str, bytes]:
        """Status, kind of content and content for a request; nothing but 404 without the token."""
        parts = urlsplit(path).path.split("/", 2)
        token = parts[1] if len(parts) > 2 else ""
        known = secrets.compare_digest(token.encode(), self._token.encode())
        if not known or host != self.host:
            return 404, "text/plain", b""
        return self._known(parts[2], urlsplit(path).query)

    def _known(self, name: str, query: str) -> tuple[int, str, bytes]:
        if name == "shell":
            return 200, "text/html; charset=utf-8", _SHELL
        if name == "preview":
            text = (files("redcrate.core.proof") / "preview.html").read_text(encoding="utf-8")
            address = "page/" + self._shown.address
            return 200, "text/html; charset=utf-8", text.replace("PAGE", address).encode()
        if name == "version":
            return 200, "text/plain", str(self._version_after(query)).encode()
        kind, _, address = name.partition("/")
        data = self._shown.read(unquote(address)) if kind == "page" else None
        if data is None:
            return 404, "text/plain", b""
        return 200, mimetypes.guess_type(unquote(address))[0] or "application/octet-stream", data

    def _version_after(self, query: str) -> int:
        """The number of what is shown now, as soon as it is another one than the one that is known."""
        with self._news:
            self._news.wait_for(lambda: str(self._version) != query or self._closed, _WAIT)
            return self._version


def _handler(server: PageServer) -> type[QuietHandler]:
    class Answering(QuietHandler):
        protocol_version = "HTTP/1.1"
        timeout = 60

        def do_GET(self) -> None:
            status, kind, data = server.answer(self.path, self.headers.get("Host", ""))
            self.send_response(status)
            self.send_header("Content-Type", kind)
            self.send_header("Content-Length", str(len(data)))
            self.send_header("Cache-Control", "no-store")
            self.send_header("Referrer-Policy", "no-referrer")  # the path is nobody else's to know
            self.send_header("Cross-Origin-Resource-Policy", "same-origin")
            self.end_headers()
            self.wfile.write(data)

    return Answering
