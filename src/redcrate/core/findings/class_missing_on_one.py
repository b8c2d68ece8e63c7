"""class-missing-on-one: one of several alike blocks lacks the class of the others."""

from collections.abc import Iterator
from functools import partial
from itertools import groupby

from redcrate.core.edit.classes import with_class
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look


def find(look: Look) -> Iterator[Finding]:
    """Siblings of one tag of which all but one have a class that a rule names."""
    named = {c.name for c in look.classes if c.rules}
    for parent, children in look.siblings():
        for tag, run in groupby((c for c in children if c.index >= 0), key=lambda c: c.tag):
            alike = list(run)
            if len(alike) < 3:
                continue
            for name in dict.fromkeys(n for c in alike for n in c.classes):
                lacking = [c for c in alike if name not in c.classes]
                one = lacking[0] if len(lacking) == 1 else None
                if (
                    one is not None
                    and name in named
                    and not one.classes
                    and one.id not in look.named_ids
                ):
                    yield Finding(
                        "class-missing-on-one",
                        Severity.SUSPICIOUS,
                        f"{len(alike) - 1} of the {len(alike)} {tag} elements in {parent.label} have "
                        f"the class “{name}”; number {alike.index(one) + 1} does not.",
                        (one,),
                        {"with": float(len(alike) - 1), "without": 1.0},
                        None,
                        (
                            look.fix(
                                f"Add the class “{name}”",
                                partial(with_class, look.page.source.markup, (one,), name),
                            ),
                        ),
                    )


FAMILY = Family(
    "class-missing-on-one",
    "One of several siblings without the class",
    "One of several siblings looks different: often its class was forgotten.",
    "<ul style='margin:0'><li class=a>one<li class=a>two<li>three</ul><style>.a{background:#cde}</style>",
    find,
    about=About.WRITING,
)
