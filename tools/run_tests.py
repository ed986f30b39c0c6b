"""Lint, types and every test, quick kinds first; stops at the first kind that fails and says where the time
went.

Lint, types, the front end's build and its tests run side by side, each of the others by itself on all
processors.

``./run test [KIND …] [--changed [REV]] [--fuzz [SEED]]``. With ``--changed`` only what a change since REV
(HEAD, if none is named) can have touched: tests of core by their imports, the application's and the browser's
as soon as the change reaches the application. With ``--fuzz`` malformed calls, and nothing else.
"""

from __future__ import annotations

import argparse
import os
import re
import secrets
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import grimp

ROOT = Path(__file__).resolve().parents[1]
SEED = os.environ.get("TEST_SEED") or str(secrets.randbelow(2**32))
WORKERS = str(min(os.cpu_count() or 1, 4))
EVERYTHING = re.compile(
    r"^(run|pyproject\.toml|requirements\.lock|tests/[^/]+\.py|tools/[^/]+\.py)$"
)  # what no import tells of
# plug-ins of pytest that a kind has no use for and need not load
WITHOUT = {
    "house": ("django", "schemathesis", "playwright"),
    "app": ("playwright",),
    "browser": ("schemathesis",),
}
FUZZ_CALLS, FUZZ_DEALT = 8000, 20  # the second for each operation of the schema: two thousand more
PASSED = re.compile(r"(?:^|\s)(\d+) passed")


@dataclass(frozen=True)
class Step:
    """One command; what it prints is shown as it comes (loud), or only when it fails."""

    words: tuple[str, ...]
    where: Path = ROOT
    loud: bool = False


@dataclass(frozen=True)
class Kind:
    """Steps that may run beside one another."""

    name: str
    steps: tuple[Step, ...]
    beside_others: bool = False


@dataclass
class Outcome:
    name: str
    seconds: float
    good: bool
    passed: int | None = None


@dataclass
class Change:
    """The files that differ from a revision, and what they can have touched."""

    files: list[str]
    modules: set[str] = field(default_factory=set)

    @property
    def everything(self) -> bool:
        return any(EVERYTHING.match(path) for path in self.files)

    @property
    def web(self) -> bool:
        return any(path.startswith(("web/", "tests/web/")) for path in self.files)

    @property
    def application(self) -> bool:
        inside = any(path.startswith("src/jungoptic/app/") for path in self.files)
        return inside or any(name.startswith("jungoptic.app") for name in self.modules)


# --- what a change touches


def _git(*words: str) -> list[str]:
    return subprocess.run(
        ["git", *words], cwd=ROOT, check=True, capture_output=True, text=True
    ).stdout.splitlines()


def module_of(path: str) -> str | None:
    """The dotted name of a source or test file: a file of data counts as the package that it lies in."""
    if not path.startswith(("src/jungoptic/", "tests/")):
        return None
    at = Path(path.removeprefix("src/"))
    parts = at.with_suffix("").parts if at.suffix == ".py" else at.parent.parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def import_graph() -> grimp.ImportGraph:
    """Who imports whom, with pytest's own import: a test file has the conftest.py beside it."""
    sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
    graph = grimp.build_graph("jungoptic", "tests")
    for name in list(graph.modules):
        beside = f"{name.rpartition('.')[0]}.conftest"
        if ".test_" in name and beside in graph.modules:
            graph.add_import(importer=name, imported=beside)
    return graph


def reach(files: list[str], graph: grimp.ImportGraph) -> set[str]:
    """The modules that these files are, and all that import them, however far away."""
    found: set[str] = set()
    for path in files:
        parts = (module_of(path) or "").split(".")
        # a folder of data counts as the package that it lies in
        name = next(
            (name for n in range(len(parts), 0, -1) if (name := ".".join(parts[:n])) in graph.modules), None
        )
        if name:
            found |= {name} | graph.find_downstream_modules(name)
    return found


def change_since(revision: str) -> Change:
    files = sorted(
        {*_git("diff", "--name-only", revision), *_git("ls-files", "--others", "--exclude-standard")}
    )
    return Change(files, reach(files, import_graph()))


# --- the kinds


def _npm(*words: str) -> Step:
    return Step(("npm", "run", "--silent", *words), ROOT / "web")


def _python_tests(kind: str, change: Change | None, whole: bool) -> Kind | None:
    """pytest on all processors: the kind as a whole, or those of its files that the change reaches."""
    files = [f"tests/{kind}"]
    if change and not whole:
        files = sorted(
            f"{name.replace('.', '/')}.py"
            for name in change.modules
            if name.startswith(f"tests.{kind}.test_")
        )
    spared = [word for name in WITHOUT.get(kind, ()) for word in ("-p", f"no:{name}")]
    pytest = [sys.executable, "-m", "pytest"]
    if kind == "core":  # where nothing but core is installed, with the examples of its docstrings
        pytest = [str(ROOT / "run"), "core_alone"]
        if whole or (change and any(name.startswith("jungoptic.core") for name in change.modules)):
            files += ["--doctest-modules", "--pyargs", "jungoptic.core"]
    words = (*pytest, "-n", WORKERS, "--dist", "worksteal", *spared, f"--randomly-seed={SEED}", *files)
    return Kind(kind, (Step(words, loud=True),)) if files else None


def lint() -> Kind:
    ours = ("src", "tests", "tools")
    return Kind(
        "lint",
        (
            _npm("eslint"),
            _npm("prettier"),
            Step(("lint-imports", "--no-logo")),
            Step(("ruff", "format", "--check", "-q", *ours)),
            Step(("ruff", "check", "-q", *ours)),
        ),
        beside_others=True,
    )


def house() -> Kind:
    """What holds for the whole tree, whatever was changed in it."""
    spared = [word for name in WITHOUT["house"] for word in ("-p", f"no:{name}")]
    return Kind(
        "house",
        (Step((sys.executable, "-m", "pytest", *spared, "tests/house"), loud=True),),
        beside_others=True,
    )


def types() -> Kind:
    return Kind(
        "types", (Step(("mypy",)), _npm("check"), Step((str(ROOT / "run"), "generated"))), beside_others=True
    )


def build() -> Kind:
    """The front end, which the application's tests and the browser's need; nothing to do if it is current."""
    return Kind("build", (Step((str(ROOT / "run"), "built")),), beside_others=True)


def core(change: Change | None) -> Kind | None:
    return _python_tests("core", change, whole=change is None)


def web(change: Change | None) -> Kind | None:
    if change is not None and not change.web:
        return None
    return Kind(
        "web", (Step(("npm", "run", "--silent", "test"), ROOT / "web", loud=True),), beside_others=True
    )


def app(change: Change | None) -> Kind | None:
    return _python_tests("app", change, whole=change is None or change.application)


def browser(change: Change | None) -> Kind | None:
    return _python_tests("browser", change, whole=change is None or change.application or change.web)


KINDS: dict[str, Callable[[Change | None], Kind | None]] = {
    "lint": lambda _: lint(),
    "types": lambda _: types(),
    "house": lambda _: house(),
    "core": core,
    "web": web,
    "app": app,
    "browser": browser,
}


def fuzz(seed: str) -> Kind:
    """Ten thousand malformed calls: our own, field by field, and those that the schema leads to."""
    dealt = (f"FUZZ_SEED={seed}", f"FUZZ_CALLS={FUZZ_CALLS}", f"FUZZ_DEALT={FUZZ_DEALT}")
    tests = ("tests/app/test_fuzz.py", "tests/app/test_schema.py", f"--hypothesis-seed={seed}")
    pytest = (sys.executable, "-m", "pytest", "-n", WORKERS, "--dist", "worksteal", *tests)
    return Kind("fuzz", (Step(("env", *dealt, *pytest), loud=True),))


# --- running them


def run_step(step: Step) -> tuple[int, str]:
    """The exit status and everything that was printed."""
    process = subprocess.Popen(
        step.words,
        cwd=step.where,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
    )
    assert process.stdout
    said = []
    for line in process.stdout:
        said.append(line)
        if step.loud:
            print(line, end="", flush=True)
    return process.wait(), "".join(said)


def run_stage(kinds: list[Kind]) -> list[Outcome]:
    """Kinds side by side, the longest step first; the seconds of a kind are those until its last step is
    done.
    """
    print(f"· {', '.join(kind.name for kind in kinds)}", flush=True)
    start = time.monotonic()
    ended: dict[str, float] = {}

    def run(kind: Kind, step: Step) -> tuple[int, str]:
        found = run_step(step)
        ended[kind.name] = time.monotonic() - start
        return found

    with ThreadPoolExecutor(max_workers=2) as pool:
        asked = [
            (kind, step, pool.submit(run, kind, step)) for kind in reversed(kinds) for step in kind.steps
        ]
    outcomes = []
    for kind in kinds:
        results = [(step, *answer.result()) for one, step, answer in asked if one is kind]
        for step, status, said in results:
            if status and not step.loud:
                print(f"{' '.join(step.words)}: exit {status}\n{said}", flush=True)
        counts = [int(found) for _, _, said in results for found in PASSED.findall(_plain(said))[-1:]]
        good = all(status == 0 for _, status, _ in results)
        outcomes.append(Outcome(kind.name, ended[kind.name], good, sum(counts) if counts else None))
    return outcomes


def stages(kinds: list[Kind]) -> list[list[Kind]]:
    """What runs side by side comes first, together; the others follow one by one."""
    together = [kind for kind in kinds if kind.beside_others]
    return [*([together] if together else []), *([kind] for kind in kinds if not kind.beside_others)]


def _plain(said: str) -> str:
    return re.sub(r"\x1b\[[0-9;]*m", "", said)


def demo_in_the_meantime() -> None:
    """The demo's template is made while the quick kinds run; a fault shows where it is needed."""
    words = [sys.executable, str(ROOT / "tools" / "make_demo_template.py")]
    threading.Thread(
        target=subprocess.run, args=(words,), kwargs={"cwd": ROOT, "capture_output": True}, daemon=True
    ).start()


def table(outcomes: list[Outcome], prepared_s: float, took_s: float) -> str:
    rows = [f"{'set-up':10}{'':>7}{prepared_s:9.1f} s"] if prepared_s else []
    for one in outcomes:
        rows.append(
            f"{one.name:10}{'' if one.passed is None else one.passed:>7}{one.seconds:9.1f}"
            f" s{'' if one.good else '   failed'}"
        )
    rows.append(f"{'all':10}{sum(one.passed or 0 for one in outcomes):>7}{prepared_s + took_s:9.1f} s")
    return "\n".join(rows)


def main(words: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./run test", description=(__doc__ or "").splitlines()[0])
    parser.add_argument("kinds", nargs="*", metavar="KIND", help=f"{', '.join(KINDS)}; all, if none is named")
    parser.add_argument(
        "--changed",
        nargs="?",
        const="HEAD",
        metavar="REV",
        help="only what the change since REV can have touched",
    )
    parser.add_argument(
        "--fuzz",
        nargs="?",
        const=SEED,
        metavar="SEED",
        help="ten thousand malformed calls, and no other test",
    )
    said = parser.parse_args(words)
    if unknown := [kind for kind in said.kinds if kind not in KINDS]:
        parser.error(f"there is no kind called {unknown[0]}; there are {', '.join(KINDS)}")
    change = change_since(said.changed) if said.changed else None
    if change and change.everything:
        change = None
    wanted = [
        kind for name, make in KINDS.items() if name in (said.kinds or KINDS) and (kind := make(change))
    ]
    if said.fuzz:
        wanted = [fuzz(said.fuzz)]
        print(f"· malformed calls are dealt by --fuzz {said.fuzz}", flush=True)
    if any(kind.name in {"app", "browser"} for kind in wanted):
        demo_in_the_meantime()
        wanted.append(build())
    print(f"· the order of the tests: TEST_SEED={SEED}", flush=True)
    outcomes: list[Outcome] = []
    start = time.monotonic()
    for stage in stages(wanted):
        outcomes += run_stage(stage)
        if not all(one.good for one in outcomes):
            break
    print("\n" + table(outcomes, float(os.environ.get("PREPARED_S", "0")), time.monotonic() - start))
    good = all(one.good for one in outcomes)
    print(f"{sum(one.passed or 0 for one in outcomes)} passed, {0 if good else 1} failed")
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
