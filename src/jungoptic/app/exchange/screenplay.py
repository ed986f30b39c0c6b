"""Candidates from a plain-text or Fountain screenplay: scenes become places, marked lines become shots.

Fountain as its published syntax page describes it: scene headings begin with INT, EXT, EST, INT./EXT or I/E,
or are forced by a leading point; a scene number stands between # at the end; notes stand in [[ ]], boneyard
in /* */, a title page before the first empty line. A line is marked by a note that begins with FX, VFX or
EFFECT, by FX: at its beginning, or by bold (**) around all of it.
"""

from __future__ import annotations

import re

from .candidates import Candidate, Fault, Read

_HEADING = re.compile(r"^(?:(?:INT|EXT|EST|INT\.?/EXT|I/E)[. ].*|\.(?!\.)\S.*)$", re.IGNORECASE)
_NUMBER = re.compile(r"\s*#([\w.\-)]{1,12})#\s*$")
_PREFIX = re.compile(r"^(?:INT\.?/EXT|INT|EXT|EST|I/E)[. ]+", re.IGNORECASE)
_NOTE = re.compile(r"\[\[(.*?)\]\]", re.DOTALL)
_MARK = re.compile(r"^\s*(?:FX|VFX|EFFECT)\s*[:\-–]?\s*(.*)$", re.IGNORECASE | re.DOTALL)
_LINE_MARK = re.compile(r"^\s*!?\s*(?:FX|VFX|EFFECT)\s*:\s*(.+)$", re.IGNORECASE)
_BOLD = re.compile(r"^\*\*([^*].*?)\*\*[.!?]?$")
_TITLE_KEY = re.compile(r"^[A-Za-z][A-Za-z ]{0,20}:(\s|$)")
_EMPHASIS = re.compile(r"(\*{1,3}|_)(?=\S)(.+?)(?<=\S)\1")


def _blanked(match: re.Match[str]) -> str:
    return "\n" * match.group(0).count("\n")


def _plain(text: str) -> str:
    return " ".join(_EMPHASIS.sub(r"\2", text).split())


def read_screenplay(text: str) -> Read:
    """Scenes and marked lines of a screenplay, each with its line.

    A note or boneyard that never ends is a fault.
    """
    text = text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    faults: list[Fault] = []
    for opens, closes, what in (("/*", "*/", "boneyard"), ("[[", "]]", "note")):
        at = text.rfind(opens)
        if at >= 0 and text.find(closes, at) < 0:
            faults.append(
                Fault(
                    text.count("\n", 0, at) + 1,
                    "",
                    f"A {what} begins with {opens} here and never ends with {closes}.",
                )
            )
    text = re.sub(r"/\*.*?\*/", _blanked, text, flags=re.DOTALL)
    notes = [(text.count("\n", 0, one.start()) + 1, one.group(1)) for one in _NOTE.finditer(text)]
    bare = _NOTE.sub(_blanked, text)
    lines = bare.split("\n")
    start = _after_title_page(lines)
    scenes: list[tuple[int, str, str]] = []
    marked: list[tuple[int, str]] = []
    for number, line in enumerate(lines[start:], start + 1):
        stripped = line.strip()
        blank_before = number == 1 or not lines[number - 2].strip() or number == start + 1
        if _HEADING.match(stripped) and blank_before:
            scenes.append((number, *_scene(stripped)))
            continue
        found = _LINE_MARK.match(stripped)
        bold = _BOLD.match(stripped)
        if found:
            marked.append((number, found.group(1)))
        elif bold and not bold.group(1).isupper():
            marked.append((number, bold.group(1)))
    for number, note in notes:
        mark = _MARK.match(note)
        if mark and mark.group(1).strip():
            marked.append((number, mark.group(1)))
    return Read(
        "fountain",
        _candidates(scenes, sorted(marked)),
        tuple(faults),
        (f"{len(scenes)} scenes, {len(marked)} marked lines.",),
    )


def _after_title_page(lines: list[str]) -> int:
    if not lines or not _TITLE_KEY.match(lines[0]) or _HEADING.match(lines[0].strip()):
        return 0
    return next((at + 1 for at, line in enumerate(lines) if not line.strip()), 0)


def _scene(heading: str) -> tuple[str, str]:
    """Scene number and place out of a heading: without INT and EXT, without the time of day."""
    found = _NUMBER.search(heading)
    plain = _NUMBER.sub("", heading)
    plain = plain[1:] if plain.startswith(".") else _PREFIX.sub("", plain)
    place = re.split(r"\s+[-–—]\s+", plain.strip())[0]
    return (found.group(1) if found else ""), _plain(place)


def _candidates(scenes: list[tuple[int, str, str]], marked: list[tuple[int, str]]) -> tuple[Candidate, ...]:
    """Marked lines where a scene has some, else the scene itself."""
    found = []
    for at, (line, number, place) in enumerate(scenes):
        ends = scenes[at + 1][0] if at + 1 < len(scenes) else 10**9
        own = [(where, text) for where, text in marked if line < where < ends]
        stem = number or str(at + 1)
        title_case = place.title() if place.isupper() else place
        for n, (where, text) in enumerate(own):
            plain = _plain(text)
            found.append(
                Candidate(where, f"{stem}-{n + 1}"[:16], _short(plain), plain, None, title_case[:80])
            )
        if not own:
            found.append(Candidate(line, stem[:16], _short(title_case), None, None, title_case[:80]))
    for where, text in marked:
        if not scenes or where < scenes[0][0]:
            found.append(Candidate(where, None, _short(_plain(text)), _plain(text)))
    return tuple(sorted(found, key=lambda one: one.line))


def _short(text: str, most: int = 60) -> str:
    """The first sentence, cut at a word."""
    first = re.split(r"(?<=[.!?])\s", text)[0].rstrip(".")
    return first if len(first) <= most else first[: most - 1].rsplit(" ", 1)[0] + "…"


_LINE = re.compile(r"^(?P<code>[A-Za-z]{0,6}[\d][\w.\-]{0,12})\s+(?P<rest>.+)$")
_FRAMES = re.compile(
    r"\s*(?:\(\s*(\d{1,7})\s*(?:f|fr|frames)?\s*\)|\[\s*(\d{1,7})\s*(?:f|fr|frames)?\s*\])\s*$", re.IGNORECASE
)


def read_lines(text: str) -> Read:
    """Shots typed one in a line: code, title, a comma or dash and what happens, the frames in round or
    square brackets.

    Only the title is needed.
    """
    found = []
    faults = []
    for number, raw in enumerate(text.replace("\r\n", "\n").split("\n"), 1):
        line = raw.strip()
        if not line:
            continue
        frames = _FRAMES.search(line)
        body = _FRAMES.sub("", line)
        coded = _LINE.match(body)
        code, rest = (coded.group("code"), coded.group("rest")) if coded else (None, body)
        parts = re.split(r"\s+[-–—]\s+|:\s+|,\s+", rest, maxsplit=1)
        title, description = parts[0].strip(), parts[1].strip() if len(parts) > 1 else None
        if len(title) > 120:
            faults.append(
                Fault(
                    number,
                    "title",
                    f"The title may have 120 characters; {len(title)} were given. Put a comma or a dash"
                    " after it.",
                )
            )
        if not title:
            faults.append(Fault(number, "title", "There is no title in this line."))
            continue
        found.append(
            Candidate(number, code, title, description, int(frames[1] or frames[2]) if frames else None)
        )
    return Read("lines", tuple(found), tuple(faults))
