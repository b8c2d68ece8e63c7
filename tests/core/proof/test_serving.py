"""The small server: the page's own files, below its path, for reading; nobody gets out of there."""

import http.client
import threading
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import quote

import pytest

from redcrate.core.proof.page_files import PageFiles
from redcrate.core.proof.serving import PageServer


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A page in a folder, with things beside it and outside of it."""
    site = tmp_path / "site" / "pages"
    (site / "pictures").mkdir(parents=True)
    (site / "index.html").write_bytes(b"<p>on disk</p>")
    (site / "pictures" / "a b.svg").write_bytes(b"<svg/>")
    (site / ".secret").write_bytes(b"hidden")
    (tmp_path / "site" / "shared.css").write_bytes(b"p { margin: 0 }")
    (tmp_path / "site" / "other.css").write_bytes(b"nobody's")
    (tmp_path / "site" / "used.svg").write_bytes(b"<svg>used</svg>")
    (tmp_path / "outside.txt").write_bytes(b"outside")
    (site / "way-out.txt").symlink_to(tmp_path / "outside.txt")
    (site / "up").symlink_to(tmp_path)
    (site / "within.svg").symlink_to(site / "pictures" / "a b.svg")
    return tmp_path


@pytest.fixture
def server(folder: Path) -> Iterator[PageServer]:
    """The page as it is edited, with a sheet of the folder above that it uses."""
    page = folder / "site" / "pages" / "index.html"
    sheet = page.parent / ".." / "shared.css"
    made = PageServer(
        PageFiles.of(
            page, {page: b"<p>edited</p>", sheet: sheet.read_bytes()}, [page.parent / ".." / "used.svg"]
        )
    )
    yield made
    made.close()


def ask(server: PageServer, path: str, method: str = "GET", **headers: str) -> tuple[int, bytes, str]:
    """Status, body and kind of the answer to a request whose path is sent as it is."""
    connection = http.client.HTTPConnection(server.host, timeout=10)
    connection.putrequest(method, path, skip_host="Host" in headers)
    for name, value in headers.items():
        connection.putheader(name, value)
    connection.endheaders()
    answer = connection.getresponse()
    return answer.status, answer.read(), answer.getheader("Content-Type", "")


def below(server: PageServer, address: str = "") -> str:
    """The path of a request for an address beside the page."""
    return "/" + server.page.split("/", 3)[3].removesuffix("index.html") + address


def test_the_page_is_served_as_it_is_now_with_what_lies_beside_it(server: PageServer) -> None:
    """Unsaved bytes, files of its folder, links within it, and the sheet above that belongs to it."""
    assert ask(server, below(server, "index.html"))[:2] == (200, b"<p>edited</p>")
    status, body, kind = ask(server, below(server, "pictures/a%20b.svg?v=2"))
    assert (status, body, kind) == (200, b"<svg/>", "image/svg+xml")
    assert ask(server, below(server, "within.svg"))[1] == b"<svg/>"
    up = below(server).removesuffix("pages/")
    status, body, kind = ask(server, up + "shared.css")
    assert (status, body, kind) == (200, b"p { margin: 0 }", "text/css")
    assert ask(server, up + "used.svg")[1] == b"<svg>used</svg>"


@pytest.mark.parametrize(
    "address",
    [
        "../other.css", "../../outside.txt", "..%2f..%2foutside.txt", "%2e%2e/%2e%2e/outside.txt", "....//other.css",
        "way-out.txt", "up/outside.txt", ".secret", "pictures", "", "nothing.html", "index.html%00.css",
        "/etc/passwd", "%2fetc%2fpasswd", "..\\..\\outside.txt", "a" * 5000,
    ],
)  # fmt: skip
def test_nothing_else_can_be_seen(server: PageServer, address: str) -> None:
    """Above the folder, behind links that lead out, hidden, no file: all are answered alike."""
    assert ask(server, below(server, address))[:2] == (404, b"")


def test_only_its_own_path_is_answered(server: PageServer) -> None:
    """Without the path, with another, or with another host in the request, there is nothing; nothing is written."""
    whole = below(server, "index.html")
    token = whole.split("/")[1]
    assert len(token) >= 32
    for path in (
        "/",
        "/index.html",
        "/page/index.html",
        whole.replace(token, token[:-1]),
        f"/{token}",
        f"/{quote('ä')}/shell",
    ):
        assert ask(server, path)[:2] == (404, b"")
    assert ask(server, whole, Host="elsewhere.example")[0] == 404
    assert ask(server, whole, Host=server.host)[0] == 200
    for method in ("POST", "PUT", "DELETE", "HEAD", "OPTIONS"):
        assert ask(server, whole, method)[0] == 501
    assert server.host.startswith("127.0.0.1:")


def test_whoever_looks_hears_of_an_edit(server: PageServer, folder: Path) -> None:
    """The preview asks for news, and is answered when there are some; it then sees the new bytes."""
    address = "/" + server.preview.split("/", 3)[3].removesuffix("preview")
    preview = ask(server, address + "preview")[1].decode()
    assert 'src="page/pages/index.html"' in preview
    known = ask(server, address + "version?")[1]
    heard: list[bytes] = []
    waiting = threading.Thread(
        target=lambda: heard.append(ask(server, f"{address}version?{known.decode()}")[1])
    )
    waiting.start()
    waiting.join(0.2)
    assert waiting.is_alive() and not heard
    page = folder / "site" / "pages" / "index.html"
    server.show(PageFiles.of(page, {page: b"<p>again</p>", folder / "site" / "shared.css": b""}))
    waiting.join(10)
    assert heard and heard[0] != known
    assert ask(server, below(server, "index.html"))[1] == b"<p>again</p>"
