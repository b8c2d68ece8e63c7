"""One random page through everything: laid out, held against the laws, edited, looked over."""

import random
import re
from pathlib import Path

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.files.loading import assemble
from redcrate.core.files.resources import Resources
from redcrate.core.findings import findings_of
from redcrate.core.page import Page, compute_page
from redcrate.core.session import Session
from tests.laws import check_laws
from tests.made_pages import made_page
from tests.snapshot import page_snapshot

_NUMBERS = re.compile(r"(?<=[:\s])-?\d+(?=px|%|em)")


def full(session: Session) -> Page:
    """The session's page from its texts alone."""
    source = session.document.text(session.document.html_name)
    return compute_page(
        assemble(source, Resources(session.document.path), session.document.text).page,
        session.views.viewport,
    )


def try_page(family: str, seed: int, folder: Path) -> None:
    """Lay a page out, edit it, see it at another width; raises where a law is broken."""
    path = folder / f"{family}-{seed}.html"
    path.write_text(made_page(family, seed), encoding="utf-8")
    session = Session(path, 500)
    check_laws(session.views.page)
    if seed % 4 == 0:
        findings_of(session.views.page, session.document.texts())
    rng = random.Random(seed)
    for _ in range(2):
        _edit(session, rng)
        session.views.set_width(rng.choice([320, 500, 900]))
        assert page_snapshot(session.views.page) == page_snapshot(full(session)), (
            "incremental differs from full"
        )
    check_laws(session.views.page)
    path.unlink()


def _edit(session: Session, rng: random.Random) -> None:
    text = session.document.text(session.document.html_name).text
    found = [m.span() for m in _NUMBERS.finditer(text)]
    if found:
        start, end = rng.choice(found)
        edit = TextEdit(session.document.html_name, start, end, rng.choice(["0", "3", "44", "150"]))
        session.editor.apply(Patch((edit,), "an edit"))
