"""Rules that keep the house one: each word said once, core by its face only, names that say what they are, no
wall of text, no file too long to read.
"""

from __future__ import annotations

import ast
import importlib
import re
import tomllib
from collections.abc import Iterator
from itertools import chain
from pathlib import Path

import django
import pytest

from jungoptic.core import vocabulary

ROOT = Path(__file__).resolve().parents[2]
CODE = [
    path
    for path in chain(ROOT.glob("src/**/*.py"), ROOT.glob("src/**/*.html"), ROOT.glob("web/src/**/*"))
    if path.suffix in (".py", ".html", ".ts", ".svelte")
    and path.name != "schema.d.ts"
    and "migrations" not in path.parts
    and path.parent.name != "vocabulary"
]


def said_once() -> dict[str, str]:
    """Every word of the vocabulary that is not a plain word of the language, and what it is."""
    v = vocabulary
    found = {words.name: f"kind {key}" for key, words in v.KINDS.items()}
    found |= {words.name: f"way to combine {key}" for key, words in v.COMBINES.items()}
    found |= {name: f"choice {key}" for key, name in v.CHOICES.items()}
    found |= {words.hatch.lines: f"hatch {key}" for key, words in v.KINDS.items()}
    found |= {words.name: f"line {key}" for key, words in v.LINES.items()}
    found |= {words.help: f"help of {key}" for key, words in v.LINES.items()}
    found |= {words.dash: f"dash of {key}" for key, words in v.LINES.items()}
    found |= {words.asks_layer: f"layer of {key}" for key, words in v.LINES.items()}
    found |= {words.no_layer: f"no layer of {key}" for key, words in v.LINES.items()}
    found |= {words.serves: f"verdict {key}" for key, words in v.VERDICT_WORDS.items()}
    found |= {colour: f"sheet {key}" for key, colour in v.SHEETS.items()}
    found |= {text: f"the guide, {key}" for key, text in (v.SEES | v.NEEDS).items()}
    # one word may also be a name in the code; two, a figure or a colour are the vocabulary's own
    return {word: what for word, what in found.items() if re.search(r"[ #\d]", word)}


def quoted(word: str) -> re.Pattern[str]:
    return re.compile(rf"""(?<=["'`>]){re.escape(word)}(?=["'`<])""")


def copies(texts: dict[str, str]) -> list[str]:
    words = {what: quoted(word) for word, what in said_once().items()}
    return [
        f"{where}: {what}"
        for where, text in texts.items()
        for what, seen in words.items()
        if seen.search(text)
    ]


def test_no_word_of_the_vocabulary_is_said_again_anywhere():
    assert len(said_once()) > 40 and len(CODE) > 200
    assert copies({str(path.relative_to(ROOT)): path.read_text("utf-8") for path in CODE}) == []


def test_a_copy_would_be_found():
    assert copies({"card.py": 'HATCHES = {"three_d": "M0 3 H6 M3 0 V6"}'}) == ["card.py: hatch three_d"]
    assert copies({"a.svelte": "<b>Matte line</b>"}) == ["a.svelte: line matte"]
    assert copies({"b.ts": "const sheet = '#1f9d3a';"}) == ["b.ts: sheet green"]


@pytest.mark.parametrize("what", ["verdict", "school", "kind", "line"])
def test_no_list_of_choices_is_typed_again(what: str):
    """In TypeScript they come from the API's schema, in Python from the vocabulary."""
    choices = {
        "verdict": ("holds", "tight", "shows"),
        "school": ("measured", "covered"),
        "kind": ("live", "live_element"),
        "line": ("matte", "split", "paint_out"),
    }[what]
    union = r"""["']\s*[|,]\s*["']""".join(choices)
    typed = re.compile(rf"""(Literal\[\s*|(?<!\w)(type \w+ =|:)\s*)["']{union}["']""")
    assert [str(path) for path in CODE if typed.search(path.read_text("utf-8"))] == []


def long_lines(path: Path) -> list[str]:
    return [
        f"{path.relative_to(ROOT)}:{at}"
        for at, line in enumerate(path.read_text("utf-8").splitlines(), 1)
        if len(line) > 110
    ]


def ours(*patterns: str) -> list[Path]:
    return [path for pattern in patterns for path in ROOT.glob(pattern) if "__pycache__" not in path.parts]


def everything() -> list[Path]:
    """All that is written by hand."""
    python = ours("src/**/*.py", "tests/**/*.py", "tools/*.py")
    front = ours("web/src/**/*.ts", "web/src/**/*.svelte", "web/src/*.css", "tests/web/*.ts")
    return [path for path in python + front + ours("run", "tools/*.sh") if path.name != "schema.d.ts"]


def test_no_line_is_wider_than_110_columns_and_no_wall_is_kept_from_the_formatter():
    code = everything()
    assert [at for path in code for at in long_lines(path)] == []
    kept = re.compile(r"#\s*fmt: *(skip|off)|prettier" + "-ignore")
    assert [str(path) for path in code if kept.search(path.read_text("utf-8"))] == []


def test_no_file_is_too_long_to_read_in_one_sitting():
    code = everything()
    lines = {str(path.relative_to(ROOT)): len(path.read_text("utf-8").splitlines()) for path in code}
    assert {path: count for path, count in lines.items() if count > 400 and "migrations" not in path} == {}


# --- core by its face, and by itself


def past_the_face(texts: dict[str, str]) -> list[str]:
    """Imports of core that reach inside a package, or for what its ``__all__`` does not list."""
    told = []
    for where, text in texts.items():
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.Import):
                told += [f"{where}: {a.name}" for a in node.names if a.name.startswith("jungoptic.core.")]
            if not isinstance(node, ast.ImportFrom) or not (node.module or "").startswith("jungoptic.core"):
                continue
            steps = (node.module or "").split(".")
            face = importlib.import_module(".".join(steps[:3])).__all__
            told += [
                f"{where}: {node.module} {alias.name}"
                for alias in node.names
                if len(steps) > 3 or alias.name not in face
            ]
    return told


def test_the_application_knows_core_by_its_face_only():
    texts = {
        str(path.relative_to(ROOT)): path.read_text("utf-8")
        for where in ("src/jungoptic/app/**/*.py", "tools/*.py", "tests/app/*.py", "tests/browser/*.py")
        for path in ROOT.glob(where)
    }
    assert sum("jungoptic.core" in text for text in texts.values()) > 50
    assert past_the_face(texts) == []


def test_a_way_round_the_face_would_be_found():
    assert past_the_face({"a.py": "from jungoptic.core.match.measure import Match"}) == [
        "a.py: jungoptic.core.match.measure Match"
    ]
    assert past_the_face({"b.py": "from jungoptic.core.match import GATE_SLACK_PX"}) == [
        "b.py: jungoptic.core.match GATE_SLACK_PX"
    ]
    assert past_the_face({"d.py": "import jungoptic.core.match.measure"}) != []
    assert (
        past_the_face({"c.py": "from jungoptic.core import match\nfrom jungoptic.core.match import Match"})
        == []
    )


def test_core_by_itself_asks_for_what_the_application_asks_for():
    def asked(path: str) -> set[str]:
        return set(tomllib.loads((ROOT / path).read_text("utf-8"))["project"]["dependencies"])

    alone = asked("packaging/core/pyproject.toml")
    assert alone and alone < asked("pyproject.toml")


# --- names


def unclear_names(text: str) -> Iterator[str]:
    """Variables, arguments and functions called by a word that names nothing."""
    for node in ast.walk(ast.parse(text)):
        match node:
            # InputError.at(field, …), Moment.at(frame, …): made at a place, said as it is read
            case ast.FunctionDef(name="at", decorator_list=[ast.Name(id="classmethod")]):
                continue
            case ast.Name(id=name, ctx=ast.Store()) | ast.arg(arg=name) | ast.FunctionDef(name=name):
                if name in ("one", "at", "found", "said"):
                    yield f"{node.lineno}: {name}"


def test_names_in_core_are_nouns():
    told = [
        f"{path.relative_to(ROOT)}:{name}"
        for path in ROOT.glob("src/jungoptic/core/**/*.py")
        for name in unclear_names(path.read_text("utf-8"))
    ]
    assert told == []
    assert list(unclear_names("found = [one for one in at]")) == ["1: found", "1: one"]


# --- words


def named(path: str) -> object:
    """What a name of docs/words.md stands for: a module or what is in one, of core if it does not say app."""
    steps = (path if path.startswith("jungoptic.") else f"jungoptic.{path}").split(".")
    if steps[1] not in ("app", "core"):
        steps.insert(1, "core")
    for length in range(len(steps), 0, -1):
        try:
            value: object = importlib.import_module(".".join(steps[:length]))
        except ModuleNotFoundError:
            continue
        for step in steps[length:]:
            fields = getattr(value, "model_fields", {}) | getattr(value, "__annotations__", {})
            value = fields[step] if step in fields else getattr(value, step)
        return value
    raise LookupError(path)


def code_names(page: str) -> list[str]:
    rows = [line for line in page.splitlines() if line.startswith("| ") and not line.startswith("| word ")]
    return [name for row in rows for name in re.findall(r"`([^`]+)`", row.rsplit("|", 2)[1])]


def test_the_words_of_the_house_are_in_the_code():
    names = code_names((ROOT / "docs/words.md").read_text("utf-8"))
    assert len(names) > 50
    django.setup()
    in_python = [name for name in names if "/" not in name]
    for name in in_python:
        named(name)
    assert all((ROOT / "web/src" / name).exists() for name in set(names) - set(in_python))
    with pytest.raises((LookupError, AttributeError)):
        named("match.Layer.nearest_m")
