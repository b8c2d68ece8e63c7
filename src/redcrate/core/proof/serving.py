"""Small servers for a page that is open: on 127.0.0.1 alone, below paths that nobody can guess, for reading only.

The page's files and the page of ours that frames them have an origin each, so that scripts of a page reach nothing of
ours. Where they run, the page has no origin at all (a sandbox, HTML Standard §7.1.5): what it fetches it cannot read, as
on a page that is opened from a file.
"""

import mimetypes
import secrets
import threading
from collections.abc import Callable, Mapping
from importlib.resources import files
from typing import Final
from urllib.parse import unquote, urlsplit

from redcrate.core.proof.local_server import Answer, LocalServer, QuietHandler
from redcrate.core.proof.page_files import PageFiles

_WAIT = 15.0  # s: how long a browser waits for news before it is told that there are none
_SHELL = b"<!doctype html>\n<title>Red Crate</title>\n<style>html, body { margin: 0 }</style>\n<body>\n"
_NOTHING: Final = Answer(404, "text/plain", b"")
_SILENT = "sandbox allow-same-origin"  # the shell reads the page; without allow-scripts nobody else does
_RUNNING = "sandbox allow-scripts allow-forms allow-modals"
_ALONE = "connect-src 'none'; form-action 'none'; object-src 'none'; base-uri 'self'"


class PageServer:
    """Serves one page's files as they were last shown to it.

    scripts: whether the page's scripts may run. It decides where the shell stands: beside the page, which it reads
    and in which then nothing runs; or in an origin of its own.
    """

    def __init__(self, shown: PageFiles, *, scripts: bool = False) -> None:
        self._shown = shown
        self._scripts = scripts
        self._news = threading.Condition()
        self._version = 0
        self._closed = False
        self._ours, self._theirs = secrets.token_urlsafe(24), secrets.token_urlsafe(24)
        self._page_server = LocalServer(_handler(self.page_answer))
        self._shell_server = LocalServer(_handler(self.shell_answer)) if scripts else self._page_server

    @property
    def host(self) -> str:
        """Host and port of the page: what a request for it must ask for."""
        return self._page_server.address

    @property
    def shell_host(self) -> str:
        """Host and port of what is ours."""
        return self._shell_server.address

    @property
    def origins(self) -> Mapping[str, Callable[[str, str], Answer]]:
        """Who answers for which host and port, for whoever hands requests on."""
        return {
            self.host: lambda path, use: self.page_answer(path, self.host, use),
            self.shell_host: lambda path, use: (
                self.shell_answer if self._scripts else self.page_answer
            )(path, self.shell_host, use),
        }

    @property
    def page(self) -> str:
        """The address of the page."""
        return f"http://{self.host}/{self._theirs}/{self._shown.address}"

    @property
    def shell(self) -> str:
        """The address of an empty page of ours, in which a page is measured."""
        return f"http://{self.shell_host}/{self._ours}/shell"

    @property
    def preview(self) -> str:
        """The address at which the page is seen, and seen anew after each edit."""
        return f"http://{self.shell_host}/{self._ours}/preview"

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
        self._page_server.close()
        if self._shell_server is not self._page_server:
            self._shell_server.close()

    # -- what is answered

    def page_answer(self, path: str, host: str, use: str) -> Answer:
        """What the page's origin answers; 404 for all that is not the page's. use: the request's Sec-Fetch-Dest."""
        token, name = _parted(path)
        if host != self.host:
            return _NOTHING
        if not self._scripts and _is(token, self._ours):
            return self._own(name, urlsplit(path).query)
        return self._file(name, use) if _is(token, self._theirs) else _NOTHING

    def shell_answer(self, path: str, host: str, use: str) -> Answer:
        """What our own origin answers; 404 without its token."""
        token, name = _parted(path)
        if host != self.shell_host or not _is(token, self._ours):
            return _NOTHING
        return self._own(name, urlsplit(path).query)

    def _file(self, name: str, use: str) -> Answer:
        address = unquote(name)
        data = self._shown.read(address, use)
        if data is None:
            return _NOTHING
        kind = (
            self._shown.kind(address) or mimetypes.guess_type(address)[0] or "application/octet-stream"
        )
        policy = f"{_RUNNING}; {_ALONE}" if self._scripts else _SILENT
        headers = {"Content-Security-Policy": f"{policy}; frame-ancestors http://{self.shell_host}"}
        if not self._scripts:
            headers["Cross-Origin-Resource-Policy"] = "same-origin"
        elif use in (
            "font",
            "script",
        ):  # for these a page without an origin must ask; it cannot read them
            headers["Access-Control-Allow-Origin"] = "*"
        if self._scripts and self._shown.is_page(address):
            data += _follower(data)
        return Answer(200, kind, data, headers)

    def _own(self, name: str, query: str) -> Answer:
        if name == "shell":
            return Answer(200, "text/html; charset=utf-8", _SHELL)
        if name == "preview":
            return self._preview()
        if name == "version":
            return Answer(200, "text/plain", str(self._version_after(query)).encode())
        return _NOTHING

    def _preview(self) -> Answer:
        nonce = secrets.token_urlsafe(16)
        text = (files("redcrate.core.proof") / "preview.html").read_text(encoding="utf-8")
        policy = (
            f"default-src 'none'; script-src 'nonce-{nonce}'; style-src 'unsafe-inline'; connect-src 'self'; "
            f"frame-src http://{self.host}; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
        )
        text = text.replace("PAGE", self.page).replace("NONCE", nonce)
        headers = {"Content-Security-Policy": policy}
        return Answer(200, "text/html; charset=utf-8", text.encode(), headers)

    def _version_after(self, query: str) -> int:
        """The number of what is shown now, as soon as it is another one than the one that is known."""
        with self._news:
            self._news.wait_for(lambda: str(self._version) != query or self._closed, _WAIT)
            return self._version


def _parted(path: str) -> tuple[str, str]:
    """The token and the rest of a request's path."""
    parts = urlsplit(path).path.split("/", 2)
    return (parts[1], parts[2]) if len(parts) > 2 else ("", "")


def _is(token: str, known: str) -> bool:
    return secrets.compare_digest(token.encode(), known.encode())


def _follower(page: bytes) -> bytes:
    """What stands after a page in the preview: it tells our page the title and how far it is scrolled, and goes away."""
    text = (files("redcrate.core.proof") / "follower.html").read_bytes()
    for mark, codec in ((b"\xff\xfe", "utf-16-le"), (b"\xfe\xff", "utf-16-be")):
        if page.startswith(mark):
            return text.decode("ascii").encode(codec)
    return text


def _handler(answer: Callable[[str, str, str], Answer]) -> type[QuietHandler]:
    class Answering(QuietHandler):
        def do_GET(self) -> None:
            use = self.headers.get("Sec-Fetch-Dest", "")
            self.give(answer(self.path, self.headers.get("Host", ""), use))

    return Answering
