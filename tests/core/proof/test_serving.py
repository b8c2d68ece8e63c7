"""The small server: the page's own files, below its path, for reading; nobody gets out of there."""

import http.client
import threading
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import quote

import pytest

from redcrate.core.files.trial import Trial
from redcrate.core.proof.page_files import PageFiles
from redcrate.core.proof.proving import files_of
from redcrate.core.proof.proxy import GuardedProxy
from redcrate.core.proof.serving import PageServer


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A page in a folder, with things beside it and outside of it."""
    site = tmp_path / "site" / "pages"
    (site / "pictures").mkdir(parents=True)
    (site / "index.html").write_bytes(b"<p>on disk</p>")
    (site / "data.json").write_bytes(b"{}")
    (site / "pictures" / "a b.svg").write_bytes(b"<svg/>")
    (site / ".secret").write_bytes(b"hidden")
    (tmp_path / "site" / "shared.css").write_bytes(b"p { margin: 0 }")
    (tmp_path / "site" / "other.css").write_bytes(b"nobody's")
    (tmp_path / "site" / "used.svg").write_bytes(b"<svg>used</svg>")
    (tmp_path / "site" / "key.png").write_bytes(b"no picture")
    (tmp_path / "outside.txt").write_bytes(b"outside")
    (site / "way-out.txt").symlink_to(tmp_path / "outside.txt")
    (site / "up").symlink_to(tmp_path)
    (site / "within.svg").symlink_to(site / "pictures" / "a b.svg")
    return tmp_path


def files_in(folder: Path) -> PageFiles:
    """The page as it is edited, with a sheet and pictures of the folder above that it uses."""
    page = folder / "site" / "pages" / "index.html"
    sheet = page.parent / ".." / "shared.css"
    used = [page.parent / ".." / name for name in ("used.svg", "key.png")]
    return PageFiles.of(page, {page: b"<p>edited</p>", sheet: sheet.read_bytes()}, used)


@pytest.fixture(params=[False, True], ids=["silent", "scripts"])
def server(folder: Path, request: pytest.FixtureRequest) -> Iterator[PageServer]:
    """The page, with and without its scripts."""
    made = PageServer(files_in(folder), scripts=request.param)
    yield made
    made.close()


@pytest.fixture
def running(folder: Path) -> Iterator[PageServer]:
    """The page with its scripts."""
    made = PageServer(files_in(folder), scripts=True)
    yield made
    made.close()


def ask(
    server: PageServer, path: str, method: str = "GET", use: str = "", at: str = "", **headers: str
) -> tuple[int, bytes, str]:
    """Status, body and kind of the answer to a request whose path is sent as it is. use: what it is for."""
    answer = whole_answer(at or server.host, path, method, use, **headers)
    return answer.status, answer.read(), answer.getheader("Content-Type", "")


def whole_answer(
    host: str, path: str, method: str = "GET", use: str = "", **headers: str
) -> http.client.HTTPResponse:
    """The answer with its headers."""
    connection = http.client.HTTPConnection(host, timeout=10)
    connection.putrequest(method, path, skip_host="Host" in headers)
    if use:
        connection.putheader("Sec-Fetch-Dest", use)
    for name, value in headers.items():
        connection.putheader(name, value)
    connection.endheaders()
    return connection.getresponse()


def below(server: PageServer, address: str = "") -> str:
    """The path of a request for an address beside the page."""
    return "/" + server.page.split("/", 3)[3].removesuffix("index.html") + address


def test_the_page_is_served_as_it_is_now_with_what_lies_beside_it(server: PageServer) -> None:
    """Unsaved bytes, files of its folder, links within it, and the sheet above that belongs to it."""
    status, body, kind = ask(server, below(server, "index.html"))
    assert (status, kind) == (200, "text/html") and body.startswith(b"<p>edited</p>")
    status, body, kind = ask(server, below(server, "pictures/a%20b.svg?v=2"))
    assert (status, body, kind) == (200, b"<svg/>", "image/svg+xml")
    assert ask(server, below(server, "within.svg"))[1] == b"<svg/>"
    up = below(server).removesuffix("pages/")
    status, body, kind = ask(server, up + "shared.css", use="style")
    assert (status, body, kind) == (200, b"p { margin: 0 }", "text/css")
    assert ask(server, up + "used.svg", use="image")[1] == b"<svg>used</svg>"


@pytest.mark.parametrize(
    "use", ["", "empty", "script", "json", "iframe", "document", "object", "worker", "font"]
)
def test_files_elsewhere_are_seen_as_what_they_are_and_by_nothing_else(
    server: PageServer, use: str
) -> None:
    """A sheet to a request for one, a picture to one for pictures; never to a script, nor what is no picture."""
    up = below(server).removesuffix("pages/")
    for name in ("shared.css", "used.svg"):
        assert ask(server, up + name, use=use)[:2] == (404, b"")
    assert ask(server, up + "shared.css", use="image")[0] == 404
    assert ask(server, up + "used.svg", use="style")[0] == 404
    assert ask(server, up + "key.png", use="image")[0] == 404, "a name alone is no picture"


def test_what_scripts_may_do(running: PageServer) -> None:
    """The page has no origin, and fetches nothing; our page is elsewhere, is framed by nobody, and runs its own script alone."""
    page = below(running, "index.html")
    assert running.shell_host != running.host
    policy = whole_answer(running.host, page, use="iframe").getheader("Content-Security-Policy", "")
    assert "sandbox allow-scripts" in policy and "allow-same-origin" not in policy
    assert "connect-src 'none'" in policy and f"frame-ancestors http://{running.shell_host}" in policy
    for name in ("index.html", "data.json", "pictures/a%20b.svg"):
        assert ask(running, below(running, name), use="empty")[0] == 404, "never to fetch"
        assert not whole_answer(running.host, below(running, name), use="image").getheader(
            "Access-Control-Allow-Origin"
        )
    _, _, host, path = running.preview.split("/", 3)
    ours = whole_answer(host, f"/{path}", use="document")
    assert "script-src 'nonce-" in ours.getheader("Content-Security-Policy", "")
    assert b'sandbox="allow-scripts allow-forms allow-modals"' in ours.read()
    assert ask(running, f"/{path}")[0] == 404, "not at the page's origin"
    token = path.split("/")[0]
    assert ask(running, page.replace(page.split("/")[1], token))[0] == 404, (
        "each has a secret of its own"
    )
    assert ask(running, page, at=running.shell_host, Host=running.shell_host)[0] == 404


def test_without_scripts_none_run_wherever_the_page_is_opened(folder: Path) -> None:
    """The answer says so itself, not only the frame."""
    server = PageServer(files_in(folder))
    answer = whole_answer(server.host, below(server, "index.html"), use="document")
    policy = answer.getheader("Content-Security-Policy", "")
    assert policy.startswith("sandbox allow-same-origin;") and answer.read() == b"<p>edited</p>"
    server.close()


def test_files_elsewhere_can_be_kept_back(folder: Path) -> None:
    """They are named, and without them the page's folder is all that there is."""
    files = files_in(folder)
    assert files.outside == ("../key.png", "../shared.css", "../used.svg")
    inside = files.without_outside()
    assert inside.outside == () and inside.address == "index.html"
    assert (
        inside.read("../shared.css", "style") is None
        and inside.read("index.html", "") == b"<p>edited</p>"
    )


def test_a_link_out_of_the_folder_is_a_file_elsewhere(folder: Path) -> None:
    """However its address looks."""
    page = folder / "site" / "pages" / "index.html"
    link = page.with_name("link.svg")
    link.symlink_to(folder / "site" / "used.svg")
    files = PageFiles.of(page, {page: b""}, [link])
    assert (
        files.outside == ("link.svg",)
        and files.read("link.svg", "image")
        and files.read("link.svg", "empty") is None
    )
    assert PageFiles.of(page, {page: b""}).read("link.svg", "image") is None


def test_the_proxy_lets_one_server_through(running: PageServer) -> None:
    """Its two origins are answered, everything else on this machine and elsewhere is refused and noted."""
    proxy = GuardedProxy()
    proxy.let_through(running.origins)
    host, port = running.host.split(":")
    assert whole_answer(proxy.address, running.page).read().startswith(b"<p>edited</p>")
    assert whole_answer(proxy.address, running.shell).status == 200
    assert proxy.heard() == []
    others = [f"{name}:{port}" for name in ("localhost", "[::1]", "127.0.0.2", "0.0.0.0")]
    others += [f"{host}:{int(port) + 1}", host, "example.org", "user@" + running.host]
    for other in others:
        assert whole_answer(proxy.address, f"http://{other}/").status == 403
    assert whole_answer(proxy.address, running.page, method="POST").status == 403
    assert whole_answer(proxy.address, running.host, method="CONNECT").status == 403
    assert whole_answer(proxy.address, running.page.replace("http:", "ftp:")).status == 403
    assert proxy.heard() == others
    proxy.close()


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
    address, at = "/" + server.preview.split("/", 3)[3].removesuffix("preview"), server.shell_host
    preview = ask(server, address + "preview", at=at)[1].decode()
    assert f'src="{server.page}"' in preview
    known = ask(server, address + "version?", at=at)[1]
    heard: list[bytes] = []
    waiting = threading.Thread(
        target=lambda: heard.append(ask(server, f"{address}version?{known.decode()}", at=at)[1])
    )
    waiting.start()
    waiting.join(0.2)
    assert waiting.is_alive() and not heard
    page = folder / "site" / "pages" / "index.html"
    server.show(PageFiles.of(page, {page: b"<p>again</p>", folder / "site" / "shared.css": b""}))
    waiting.join(10)
    assert heard and heard[0] != known
    assert ask(server, below(server, "index.html"))[1].startswith(b"<p>again</p>")


def test_a_page_that_is_named_by_a_relative_path(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A sheet in the folder above is the page's wherever the program goes on working."""
    site = folder / "site" / "pages"
    (site / "index.html").write_text("<!doctype html><link rel=stylesheet href=../shared.css><p>x")
    monkeypatch.chdir(site)
    trial = Trial.of_file(Path("index.html"))
    monkeypatch.chdir(folder)
    files = files_of(trial)
    assert files.outside == ("../shared.css",)
    assert files.read("shared.css", "style") == b"p { margin: 0 }" and files.read(
        "pages/index.html", "document"
    )
