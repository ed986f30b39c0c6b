"""Candidates from a plain-text or Fountain screenplay: scenes become places, marked lines become shots.

Fountain as its published syntax page describes it: scene headings begin with INT, EXT, EST, INT./EXT or I/E,
or are forced by a leading point; a scene number stands between # at the end; notes stand in [[ ]], boneyard
in /* */, a title page before the first empty line. A line is marked by a note that begins with FX, VFX or
EFFECT, by FX: at its beginning, or by bold (**) around all of it.
"""

from __future__ import annotations

import math
import re
from bisect import bisect_left, bisect_right
from dataclasses import dataclass

from .candidates import Candidate, Fault, Read

_HEADING = re.compile(r"^(?:(?:INT|EXT|EST|INT\.?/EXT|I/E)[. ].*|\.(?!\.)\S.*)$", re.IGNORECASE)
_NUMBER = re.compile(r"[\w.\-)]{1,12}")
_PREFIX = re.compile(r"^(?:INT\.?/EXT|INT|EXT|EST|I/E)[. ]+", re.IGNORECASE)
_MARK = re.compile(r"^(?:FX|VFX|EFFECT) ?[:\-–]? ?(.*)$", re.IGNORECASE)
_LINE_MARK = re.compile(r"^!? ?(?:FX|VFX|EFFECT) ?: ?(.+)$", re.IGNORECASE)
_BOLD = re.compile(r"^\*\*([^*].*?)\*\*[.!?]?$")
_TITLE_KEY = re.compile(r"^[A-Za-z][A-Za-z ]{0,20}:(\s|$)")
_EMPHASIS = re.compile(r"(\*{1,3}|_)")


@dataclass(frozen=True, slots=True)
class _Bracketed:
    """What stands between two brackets, and on which line it begins."""

    line: int
    text: str


def _taken_out(text: str, opens: str, closes: str) -> tuple[str, list[_Bracketed], int | None]:
    """The text with what stands in brackets left out, but for its line breaks; what that was; and the line of
    one that never ends. Every character is looked at once, whatever there is.
    """
    kept: list[str] = []
    found: list[_Bracketed] = []
    at = line = 0
    while (start := text.find(opens, at)) >= 0:
        ends = text.find(closes, start + len(opens))
        if ends < 0:
            return "".join([*kept, text[at:]]), found, line + text.count("\n", at, start) + 1
        line += text.count("\n", at, start)
        inner = text[start + len(opens) : ends]
        found.append(_Bracketed(line + 1, inner))
        breaks = inner.count("\n")
        kept += [text[at:start], "\n" * breaks]
        line += breaks
        at = ends + len(closes)
    return "".join([*kept, text[at:]]), found, None


def _one_spaced(text: str) -> str:
    return " ".join(text.split())


def _plain(text: str) -> str:
    """Without the marks of emphasis that come in pairs, and with single spaces."""
    parts = _EMPHASIS.split(_one_spaced(text))
    opened: dict[str, int] = {}
    for at in range(1, len(parts), 2):
        mark = parts[at]
        begins = opened.get(mark)
        holds_something = begins is not None and (at - begins > 2 or parts[at - 1])
        if begins is not None and holds_something and not parts[at - 1].endswith(" "):
            parts[begins] = parts[at] = ""
            del opened[mark]
        elif not parts[at + 1].startswith(" ") and at + 1 < len(parts):
            opened.setdefault(mark, at)
    return _one_spaced("".join(parts))


def read_screenplay(text: str) -> Read:
    """Scenes and marked lines of a screenplay, each with its line.

    A note or boneyard that never ends is a fault.
    """
    text = text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    faults: list[Fault] = []
    text, _, open_at = _taken_out(text, "/*", "*/")
    bare, notes, note_open_at = _taken_out(text, "[[", "]]")
    for never, what, opens, closes in ((open_at, "boneyard", "/*", "*/"), (note_open_at, "note", "[[", "]]")):
        if never is not None:
            faults.append(
                Fault(never, "", f"A {what} begins with {opens} here and never ends with {closes}.")
            )
    lines = bare.split("\n")
    start = _after_title_page(lines)
    scenes: list[tuple[int, str, str]] = []
    marked: list[tuple[int, str]] = []
    for number, line in enumerate(lines[start:], start + 1):
        stripped = _one_spaced(line)
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
    for note in notes:
        mark = _MARK.match(_one_spaced(note.text))
        if mark and mark.group(1).strip():
            marked.append((note.line, mark.group(1)))
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
    number = ""
    before, hash_mark, last = heading.removesuffix("#").rpartition("#")
    if heading.endswith("#") and hash_mark and _NUMBER.fullmatch(last):
        number, heading = last, before.rstrip()
    plain = heading[1:] if heading.startswith(".") else _PREFIX.sub("", heading)
    place = re.split(r" [-–—] ", plain.strip())[0]
    return number, _plain(place)


def _candidates(scenes: list[tuple[int, str, str]], marked: list[tuple[int, str]]) -> tuple[Candidate, ...]:
    """Marked lines where a scene has some, else the scene itself."""
    begins = [line for line, _ in marked]
    first = scenes[0][0] if scenes else math.inf
    found = [
        Candidate(where, None, _short(_plain(text)), _plain(text)) for where, text in marked if where < first
    ]
    for at, (line, number, place) in enumerate(scenes):
        ends = scenes[at + 1][0] if at + 1 < len(scenes) else math.inf
        own = marked[bisect_right(begins, line) : bisect_left(begins, ends)]
        stem = number or str(at + 1)
        title_case = place.title() if place.isupper() else place
        for n, (where, text) in enumerate(own):
            plain = _plain(text)
            found.append(
                Candidate(where, f"{stem}-{n + 1}"[:16], _short(plain), plain, None, title_case[:80])
            )
        if not own:
            found.append(Candidate(line, stem[:16], _short(title_case), None, None, title_case[:80]))
    return tuple(sorted(found, key=lambda one: one.line))


def _short(text: str, most: int = 60) -> str:
    """The first sentence, cut at a word."""
    first = re.split(r"(?<=[.!?])\s", text)[0].rstrip(".")
    return first if len(first) <= most else first[: most - 1].rsplit(" ", 1)[0] + "…"


_LINE = re.compile(r"^(?P<code>[A-Za-z]{0,6}[\d][\w.\-]{0,12})\s+(?P<rest>.+)$")
_FRAMES = re.compile(r"(\d{1,7})(?:f|fr|frames)?", re.IGNORECASE)


def _frames_at_end(line: str) -> tuple[str, int | None]:
    """The line without frames in round or square brackets at its end, and those."""
    for opens, closes in ("()", "[]"):
        before, bracket, inner = line.removesuffix(closes).rpartition(opens)
        if line.endswith(closes) and bracket and (said := _FRAMES.fullmatch("".join(inner.split()))):
            return before.rstrip(), int(said[1])
    return line, None


def read_lines(text: str) -> Read:
    """Shots typed one in a line: code, title, a comma or dash and what happens, the frames in round or
    square brackets.

    Only the title is needed.
    """
    found = []
    faults = []
    for number, raw in enumerate(text.replace("\r\n", "\n").split("\n"), 1):
        line = _one_spaced(raw)
        if not line:
            continue
        body, frames = _frames_at_end(line)
        coded = _LINE.match(body)
        code, rest = (coded.group("code"), coded.group("rest")) if coded else (None, body)
        parts = re.split(r" [-–—] |: |, ", rest, maxsplit=1)
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
        found.append(Candidate(number, code, title, description, frames))
    return Read("lines", tuple(found), tuple(faults))
