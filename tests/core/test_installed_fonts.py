"""The fonts of the machine: chosen as fontconfig says, faces of collections too; the bundled ones come first."""

import subprocess
import sys
from importlib.resources import files
from pathlib import Path

import pytest
from fontTools.ttLib import TTCollection, TTFont

from redcrate.core.text.installed_fonts import from_fontconfig, to_fontconfig

BUNDLED = Path(str(files("redcrate.core.text") / "fonts"))
ASK = """
import sys
from redcrate.core.text.fonts import choose_font
from redcrate.core.text.shaping import shape
for family, weight, style in (
    ("Marram", 400, "normal"), ("marram", 800, "normal"), ("Sea, Kale: 7-x", 400, "normal"),
    ("Sea, Kale: 7-x", 400, "italic"), ("Liberation Sans", 400, "normal"), ("Nowhere", 400, "normal"),
    ("Mar ram", 400, "normal"),
):
    chosen = choose_font((family,), weight, style)
    face = chosen.face
    width = shape(face, "mill").sums[-1]
    print(face.path.name, face.weight, face.italic, width, chosen.stands_in_for, sep="|")
"""


def renamed(file: str, family: str) -> TTFont:
    """A bundled font under another name."""
    font = TTFont(BUNDLED / file)
    for record in list(font["name"].names):
        if record.nameID in (1, 4, 6, 16):
            font["name"].setName(
                family, record.nameID, record.platformID, record.platEncID, record.langID
            )
    return font


def answers(program: str, config: Path) -> list[str]:
    """The lines that a program prints on a machine with that configuration of fonts."""
    run = subprocess.run(
        [sys.executable, "-c", program],
        env={"FONTCONFIG_FILE": str(config)},
        capture_output=True,
        text=True,
        check=True,
    )
    return run.stdout.splitlines()


@pytest.fixture
def machine(tmp_path: Path) -> Path:
    """A configuration with one family in a collection, another in single files, and one that is bundled too."""
    folder = tmp_path / "fonts"
    folder.mkdir()
    both = TTCollection()
    both.fonts = [
        renamed("LiberationMono-Regular.ttf", "Marram"),
        renamed("LiberationMono-Bold.ttf", "Marram"),
    ]
    both.save(folder / "marram.ttc")
    renamed("LiberationSerif-Regular.ttf", "Sea, Kale: 7-x").save(folder / "kale.otf")
    renamed("LiberationSerif-Italic.ttf", "Sea, Kale: 7-x").save(folder / "kale-italic.ttf")
    renamed("LiberationMono-Regular.ttf", "Liberation Sans").save(folder / "false.ttf")
    (folder / "broken.ttf").write_bytes(b"\x00\x01\x00\x00 nothing")
    config = tmp_path / "fonts.conf"
    config.write_text(
        f"<fontconfig><dir>{folder}</dir><cachedir>{tmp_path}/cache</cachedir></fontconfig>"
    )
    return config


def test_faces_are_those_that_fontconfig_chooses(machine: Path) -> None:
    """By names in any case and of any letters, by weight and slant; what is not there has a stand-in that is told."""
    lines = [line.split("|") for line in answers(ASK, machine)]
    widths = {
        f: TTFont(BUNDLED / f)["hmtx"]
        for f in ("LiberationSerif-Regular.ttf", "LiberationSans-Regular.ttf")
    }
    serif, sans = (sum(w[c][0] for c in "mill") for w in widths.values())
    assert lines[:2] == [
        ["marram.ttc", "400", "False", str(1229 * 4), ""],
        ["marram.ttc", "700", "False", str(1229 * 4), ""],
    ]
    assert lines[2] == ["kale.otf", "400", "False", str(serif), ""]
    assert lines[3][:3] == ["kale-italic.ttf", "400", "True"]
    assert lines[4] == ["LiberationSans-Regular.ttf", "400", "False", str(sans), ""]
    for line, missing in zip(lines[5:], ("Nowhere", "Mar ram"), strict=True):
        assert (line[0], line[4]) == ("LiberationSerif-Regular.ttf", missing)


def test_a_machine_without_fonts_has_the_bundled_ones(tmp_path: Path) -> None:
    """Nor one without a configuration: nothing fails, and each family is told to be missing."""
    (tmp_path / "fonts.conf").write_text("<fontconfig></fontconfig>")
    for config in ("fonts.conf", "gone.conf"):
        missing = [line.split("|")[4] for line in answers(ASK, tmp_path / config)]
        assert missing == [
            "Marram",
            "marram",
            "Sea, Kale: 7-x",
            "Sea, Kale: 7-x",
            "",
            "Nowhere",
            "Mar ram",
        ]


@pytest.mark.parametrize(
    ("css", "own"), [(1, 0), (100, 0), (400, 80), (450, 90), (600, 180), (650, 190), (1000, 215)]
)
def test_weights_there_and_back(css: int, own: float) -> None:
    """The scale of fontconfig has the same steps as that of CSS, closer together at the ends."""
    assert to_fontconfig(css) == own
    assert from_fontconfig(own) == max(css, 100)


def test_a_generic_name_in_quotes_is_asked_of_the_machine(machine: Path) -> None:
    """CSS Fonts 4 §2.1.3: `serif` in quotes is no keyword; without an answer the next family counts."""
    ask = (
        "from redcrate.core.style.declarations import parse_declaration\n"
        "import tinycss2\n"
        "from redcrate.core.text.fonts import choose_font\n"
        "for text in ('\"serif\", monospace', 'serif, monospace', '\"sans-serif\"'):\n"
        "    value = parse_declaration('font-family', tinycss2.parse_component_value_list(text))\n"
        "    print(choose_font(value['font-family'], 400, 'normal').face.path.name)\n"
    )
    config = machine.read_text().replace(
        "</fontconfig>",
        '<match><test name="family"><string>serif</string></test><edit name="family" mode="assign" binding="same">'
        "<string>Marram</string></edit></match></fontconfig>",
    )
    machine.write_text(config)
    assert answers(ask, machine) == [
        "marram.ttc",
        "LiberationSerif-Regular.ttf",
        "LiberationSans-Regular.ttf",
    ]


def test_a_letter_that_the_families_lack_comes_from_the_machine(machine: Path) -> None:
    """The first font that has it, whatever its family; none where no font has it."""
    font = renamed("LiberationSans-Regular.ttf", "Rush")
    for table in font["cmap"].tables:
        if table.isUnicode():
            table.cmap[0xE200] = "a"
    font.save(machine.parent / "fonts" / "rush.ttf")
    ask = (
        "from redcrate.core.text.letters import by_face, missing_letters\n"
        "fonts = (('Nowhere', 'serif'), 400, 'normal')\n"
        "for text, face in by_face('a\\ue200\\ue201', *fonts): print(ascii(text), face and face.family)\n"
        "print(ascii(missing_letters('a\\ue200\\ue201', *fonts)))\n"
    )
    assert answers(ask, machine) == ["'a' None", "'\\ue200' Rush", "'\\ue201' None", "'\\ue201'"]
