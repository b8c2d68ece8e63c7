"""The same against a real browser, where one is installed; README says how to get it."""

import contextlib
import socket
import struct
import threading
import time
from pathlib import Path

import pytest
from selenium.common.exceptions import WebDriverException

from redcrate.core.files.trial import Trial
from redcrate.core.proof.browsers import find_browser
from redcrate.core.proof.comparing import DifferenceKind
from redcrate.core.proof.errors import BrowserFailed, NoBrowser
from redcrate.core.proof.page_files import PageFiles
from redcrate.core.proof.proving import Proof, Wish, files_of
from redcrate.core.proof.serving import PageServer
from redcrate.core.proof.warm import WarmBrowser
from redcrate.core.style.media import Viewport
from tests.conftest import CASES, ROOT


def proof_of(browser: WarmBrowser, folder: Path, html: str, wish: Wish) -> Proof:
    """Of a page with that text."""
    (folder / "page.html").write_text(html, encoding="utf-8")
    return browser.prove(Trial.of_file(folder / "page.html"), wish)


DEMOS = [
    ROOT / "demo" / name / "index.html"
    for name in ("ploverfield", "ploverfield-draft", "ploverfield-cards")
]
SOME = [
    CASES / f"{name}.html"
    for name in ("gen-float-003", "gen-mixed-004", "flex-grow-shrink", "position-absolute")
]


@pytest.mark.parametrize(
    "page", [*DEMOS, *(p for p in SOME if p.exists())], ids=lambda p: f"{p.parent.name}-{p.stem}"
)
def test_pages_are_the_same_there(browser: WarmBrowser, page: Path) -> None:
    """All boxes at three widths, fonts apart: a machine may have others."""
    proof = browser.prove(Trial.of_file(page), Wish((390, 820, 1280)))
    for found in proof.comparisons:
        assert found.compared > 10 and found.width_there == found.width
        assert [d.element.label for d in found.causes if d.kind is not DifferenceKind.FONT] == []


def test_scripts_run_only_where_that_is_wanted(browser: WarmBrowser, tmp_path: Path) -> None:
    """Without them noscript is hidden all the same, as here; with them, what they leave is computed here too."""
    html = """<!doctype html><style>p { width: 50%; height: 20px }</style><body><noscript><style>p { width: 9px }</style><b>n</b></noscript><p id=always></p>
    <script>document.body.insertAdjacentHTML("beforeend", "<p id=made style='height: 70px'></p>")</script>"""
    (off,) = proof_of(browser, tmp_path, html, Wish((500,))).comparisons
    assert not off.differences and not off.other_tree
    assert [e.id for e in off.page.elements if off.page.box_of(e) and e.id] == ["always"]
    (on,) = proof_of(browser, tmp_path, html, Wish((500,), scripts=True)).comparisons
    made = next(e for e in on.page.elements if e.id == "made")
    box = on.page.box_of(made)
    assert not on.differences and not on.other_tree
    assert box is not None and box.border_box.height == 70 * 64


def test_no_way_leads_out(browser: WarmBrowser, tmp_path: Path) -> None:
    """What a page asks for elsewhere is refused by the proxy, and is told."""
    html = """<!doctype html><link rel=stylesheet href="https://styles.invalid/a.css">
    <p style="background: url(http://pictures.invalid/b.png)">x</p><img src="//pictures.invalid/c.png" width=9 height=9>"""
    proof = proof_of(browser, tmp_path, html, Wish((500,)))
    assert set(proof.refused) == {"styles.invalid", "pictures.invalid"}


def test_pictures_of_other_folders_are_there_too(browser: WarmBrowser, tmp_path: Path) -> None:
    """A page in a folder of its own beside one with pictures, as sites have them."""
    (tmp_path / "pages").mkdir()
    (tmp_path / "dot.svg").write_text(
        "<svg xmlns='http://www.w3.org/2000/svg' width='37' height='23'/>", encoding="utf-8"
    )
    proof = proof_of(
        browser, tmp_path / "pages", "<!doctype html><img src='../dot.svg?v=1'><p>x", Wish((500,))
    )
    assert not proof.differs


def test_what_differs_is_found(browser: WarmBrowser, tmp_path: Path) -> None:
    """The page on disk is not the one that is served: unsaved texts are what counts in both."""
    (tmp_path / "page.html").write_text("<!doctype html><p style='height:20px'>x</p>", encoding="utf-8")
    trial = Trial.of_file(tmp_path / "page.html")
    edited = trial.with_html("<!doctype html><p style='height:90px'>x</p>")
    (found,) = browser.prove(edited, Wish((500,))).comparisons
    assert not found.differences
    box = found.page.box_of(found.page.elements[2])
    assert box is not None and box.border_box.height == 90 * 64


def test_the_picture_is_as_large_as_the_page(browser: WarmBrowser, tmp_path: Path) -> None:
    """Width of the window, as far down as asked for; no further than the window where that would change the page."""
    proof_of(browser, tmp_path, "<!doctype html><div style='height:1500px'></div>", Wish((333,)))
    png = browser.open().picture(1516)
    assert struct.unpack(">II", png[16:24]) == (333, 1516)
    proof_of(browser, tmp_path, "<!doctype html><div style='height:200vh'></div>", Wish((333,)))
    png = browser.open().picture(1616)
    assert struct.unpack(">II", png[16:24]) == (333, 800)


def test_a_page_whose_script_never_ends_is_one_sentence(tmp_path: Path) -> None:
    """The browser is ended; nothing hangs."""
    try:
        warm = WarmBrowser(find_browser().kind, patience=1)
    except NoBrowser as problem:
        pytest.skip(problem.sentence)
    with pytest.raises(BrowserFailed, match=r"did not load|did not answer"):
        proof_of(
            warm, tmp_path, "<!doctype html><script>for (;;) {}</script>", Wish((500,), scripts=True)
        )
    warm._patience = 20  # of the one that is started anew: a slow machine needs more than a second
    assert not proof_of(warm, tmp_path, "<!doctype html><p>x</p>", Wish((500,))).differs
    warm.close()


def test_the_preview_is_shown_anew_where_it_was_scrolled(browser: WarmBrowser, tmp_path: Path) -> None:
    """The browser that people see it in: after an edit the new page, as far down as before, under its own title."""
    page = tmp_path / "page.html"
    html = "<!doctype html><title>{}</title><body style='height: 5000px'><p>{}</p>"
    server = PageServer(PageFiles.of(page, {page: html.format("One", "before").encode()}), scripts=True)
    session = browser.open()._session
    browser.open().open_shell(server)
    session.get(server.preview)

    def in_page(script: str) -> object:
        session.switch_to.frame(session.find_element("tag name", "iframe"))
        try:
            return session.execute_script(script)
        finally:
            session.switch_to.default_content()

    def becomes(wanted: list[object]) -> bool:
        until = time.monotonic() + 10
        while time.monotonic() < until:
            with contextlib.suppress(
                WebDriverException
            ):  # the frame is not there yet, or is being replaced
                seen = in_page(
                    "return [document.body?.innerText.trim(), scrollY, document.scripts.length]"
                )
                if [session.title, *seen] == wanted:  # type: ignore[misc]
                    return True
            time.sleep(0.05)
        return False

    assert becomes(["One", "before", 0, 0])
    in_page("scrollTo(0, 700)")
    time.sleep(0.2)
    server.show(PageFiles.of(page, {page: html.format("Two", "after").encode()}))
    assert becomes(["Two", "after", 700, 0])
    session.get("about:blank")
    server.close()


SPY = """<!doctype html><link rel=stylesheet href="../shared.css"><img id=i src="../key.svg" width=9 height=9><p>x</p><script>
const told = [];
const tell = what => { told.push(what); document.body.dataset.told = JSON.stringify(told); };
const ways = ["../key.svg", "../shared.css", "data.json", "../../../../../../../../etc/passwd", location.href];
(async () => {
    for (const way of ways) {
        for (const mode of ["cors", "no-cors"]) {
            try { const a = await fetch(way, {mode}); if ((await a.text()).length) tell("fetched " + way); } catch {}
        }
        await new Promise(go => { const r = new XMLHttpRequest(); r.open("GET", way); r.onload = () => { if (r.responseText) tell("asked " + way); go(); }; r.onerror = go; r.send(); });
    }
    try { if (parent.document.body) tell("reached the shell"); } catch {}
    try { if (parent.location.href) tell("read the shell's address"); } catch {}
    try { parent.frames[0].frameElement.removeAttribute("sandbox"); tell("took the sandbox off"); } catch {}
    try { for (const s of document.styleSheets) if (s.cssRules.length) tell("read a sheet"); } catch {}
    await new Promise(go => setTimeout(go, 200));
    try { const c = document.createElement("canvas").getContext("2d"), i = document.getElementById("i"); if (!i.naturalWidth) tell("saw no picture"); c.drawImage(i, 0, 0); if (c.getImageData(0, 0, 1, 1).data[3]) tell("read a picture"); } catch {}
    try { document.cookie; localStorage.length; tell("has an origin"); } catch {}
    for (const way of ways) {
        const frame = document.createElement("iframe"); frame.src = way; document.body.append(frame);
        await new Promise(go => { frame.onload = go; setTimeout(go, 300); });
        try { if (frame.contentDocument?.body?.innerText) tell("framed " + way); } catch {}
        frame.remove();
    }
    document.body.dataset.done = "yes";
})();
</script>"""


def test_scripts_of_a_page_read_no_file(browser: WarmBrowser, tmp_path: Path) -> None:
    """With scripts running: a sheet and a picture elsewhere are shown, and nothing hands their content to the script."""
    folder = tmp_path / "page"
    folder.mkdir()
    (tmp_path / "shared.css").write_text("p { width: 33px }")
    (tmp_path / "key.svg").write_text(
        "<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><rect width='9' height='9'/></svg>"
    )
    (folder / "data.json").write_text('{"private": 1}')
    (folder / "page.html").write_text(SPY)
    trial = Trial.of_file(folder / "page.html")
    trial.page(Viewport(500, 800))
    server = PageServer(files_of(trial), scripts=True)
    driven = browser.open()
    driven.open_shell(server)
    driven.measure(server.page, 500, 800, scripts=True)
    until = time.monotonic() + 10
    state: list[object] = []
    while time.monotonic() < until and state[1:2] != ["yes"]:
        script = "const p = view.document.querySelector('p'), d = view.document.body.dataset; return [p.offsetWidth, d.done, d.told]"
        state = driven._inside("execute_script", script)
    assert state == [33, "yes", None]
    server.close()


def test_nothing_else_on_this_machine_is_reached(browser: WarmBrowser, tmp_path: Path) -> None:
    """Pictures, sheets, fonts, frames and what scripts send, to every name of this machine: refused and told."""
    reached: list[object] = []
    sockets: list[socket.socket] = []
    for family, host in ((socket.AF_INET, "0.0.0.0"), (socket.AF_INET6, "::1")):
        one = socket.socket(family)
        if family == socket.AF_INET6:
            one.setsockopt(socket.IPPROTO_IPV6, socket.IPV6_V6ONLY, 1)
        one.bind((host, sockets[0].getsockname()[1] if sockets else 0))
        one.listen()
        one.settimeout(0.2)
        sockets.append(one)
    stop = threading.Event()

    def listen(one: socket.socket) -> None:
        while not stop.is_set():
            with contextlib.suppress(TimeoutError):
                reached.append(one.accept()[1])

    threads = [threading.Thread(target=listen, args=(one,)) for one in sockets]
    for thread in threads:
        thread.start()
    port = sockets[0].getsockname()[1]
    names = [
        f"{n}:{port}"
        for n in ("127.0.0.1", "localhost", "[::1]", "127.0.0.2", "a.localhost", "0.0.0.0", "2130706433")
    ]
    html = "<!doctype html><p>x</p>" + "".join(
        f"<link rel=stylesheet href=http://{n}/s.css><img src=http://{n}/i.png><iframe src=http://{n}/f.html></iframe>"
        f"<style>@font-face {{ font-family: f{i}; src: url(http://{n}/f.woff) }} p {{ font-family: f{i} }}</style>"
        f"<script>fetch('http://{n}/', {{method: 'POST', mode: 'no-cors', body: 'x'}}); new Image().src = 'http://{n}/';"
        f"try {{ new WebSocket('ws://{n}/') }} catch {{}} navigator.sendBeacon('http://{n}/', 'x')</script>"
        for i, n in enumerate(names)
    )  # fmt: skip
    told = [proof_of(browser, tmp_path, html, Wish((500,), scripts=s)).refused for s in (False, True)]
    stop.set()
    for thread in threads:
        thread.join()
    for one in sockets:
        one.close()
    assert reached == []
    for refused in told:
        assert {f"127.0.0.1:{port}", f"localhost:{port}", f"[::1]:{port}", f"127.0.0.2:{port}"} <= set(
            refused
        )
