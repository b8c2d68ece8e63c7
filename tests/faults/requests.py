"""Requests of strangers to the page's server: whatever is asked, in whatever way, nothing else comes out."""

import http.client
import random
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import quote

from redcrate.core.proof.page_files import PageFiles
from redcrate.core.proof.serving import PageServer

SECRET = b"nobody's to know"
_USES = [
    "",
    "empty",
    "document",
    "iframe",
    "image",
    "font",
    "style",
    "script",
    "json",
    "object",
    "worker",
    "manifest",
]
_METHODS = ["GET", "GET", "GET", "HEAD", "POST", "PUT", "OPTIONS", "DELETE", "TRACE", "CONNECT"]


def _folder(folder: Path) -> PageFiles:
    site = folder / "site" / "pages"
    site.mkdir(parents=True)
    for path in (
        folder / "secret.txt",
        folder / "site" / "secret.css",
        site / ".secret",
        folder / "secret.png",
    ):
        path.write_bytes(SECRET)
    (site / "out.svg").symlink_to(folder / "secret.txt")
    (site / "up").symlink_to(folder)
    (folder / "site" / "s.css").write_bytes(b"p { top: 0 }")
    page, sheet = site / "p.html", folder / "site" / "s.css"
    # the page's pictures are those that it names: one of them is none
    return PageFiles.of(page, {page: b"<p>x</p>", sheet: sheet.read_bytes()}, [folder / "secret.png"])


def _path(server: PageServer, folder: Path, chance: random.Random) -> str:
    token = server.page.split("/")[3]
    ours = server.shell.split("/")[3]
    name = chance.choice(
        ["site/pages/p.html", "p.html", "secret.txt", "site/secret.css", "secret.png", "site/pages/.secret", "site/pages/out.svg",
         "site/pages/up/secret.txt", "site/pages/../../secret.txt", f"{folder}/secret.txt", "shell", "preview", "version?x"]
    )  # fmt: skip
    coded = chance.choice(
        [
            name,
            quote(name),
            quote(name, safe=""),
            name.replace("/", "//"),
            name.replace("..", "%2e%2e"),
            name.replace("/", "\\"),
            f"{name}%00.css",
            f"/{name}",
            f"./{name}",
            f"{name}/.",
            f"x/../{name}",
        ]
    )
    return f"/{chance.choice([token, token, token, ours, token[:-1], '', 'page'])}/{coded}"


def requests(folder: Path, seed: int, runs: int) -> Iterator[str]:
    """So many requests; each answer is looked through."""
    chance = random.Random(seed)
    files = _folder(folder)
    servers = [PageServer(files), PageServer(files, scripts=True)]
    try:
        for run in range(runs):
            server = chance.choice(servers)
            told = _asked(server, folder, chance)
            yield f"request {seed} {run}: {told}" if told else ""
    finally:
        for server in servers:
            server.close()


def _asked(server: PageServer, folder: Path, chance: random.Random) -> str:
    method, use, path = chance.choice(_METHODS), chance.choice(_USES), _path(server, folder, chance)
    at = chance.choice([server.host, server.shell_host])
    host = chance.choice([at, at, at, "elsewhere.example", "localhost", server.host, ""])
    if "version" in path:
        return ""  # it waits for news
    connection = http.client.HTTPConnection(at, timeout=5)
    try:
        connection.putrequest(method, path.replace(" ", "%20"), skip_host=True)
        connection.putheader("Host", host)
        if use:
            connection.putheader("Sec-Fetch-Dest", use)
        connection.putheader("Origin", "null")
        connection.endheaders()
        answer = connection.getresponse()
        body = answer.read()
    except (OSError, http.client.HTTPException, ValueError):
        return ""
    finally:
        connection.close()
    what = f"{method} {path} for {use or 'nothing'} at {host}"
    if SECRET in body:
        return f"{what} gave what is nobody's"
    is_ours = path.split("/")[1] == server.shell.split("/")[3]
    if answer.status == 200 and use in ("empty", "json") and not is_ours:
        return f"{what} was handed to a script"
    if answer.status == 200 and (method != "GET" or host != at):
        return f"{what} was answered"
    return ""
