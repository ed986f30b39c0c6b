"""What a change can have touched: `./run test --changed` must not leave out a test that the change can
break.
"""

import pytest
from tools import run_tests


@pytest.fixture(scope="module")
def graph():
    return run_tests.import_graph()


def test_a_file_is_its_module_and_data_its_package():
    assert run_tests.module_of("src/jungoptic/core/plan/seen.py") == "jungoptic.core.plan.seen"
    assert run_tests.module_of("src/jungoptic/core/plan/__init__.py") == "jungoptic.core.plan"
    assert (
        run_tests.module_of("src/jungoptic/app/papers/templates/card.html")
        == "jungoptic.app.papers.templates"
    )
    assert run_tests.module_of("docs/architecture.md") is None


def test_tests_are_found_by_what_they_import_however_far_away(graph):
    touched = run_tests.reach(["src/jungoptic/core/plan/seen.py"], graph)
    assert "tests.core.test_seen" in touched and "tests.core.test_handbook" not in touched
    assert "tests.core.test_match" in run_tests.reach(["src/jungoptic/core/optics/frame.py"], graph)
    assert "tests.core.test_plan" in run_tests.reach(
        ["tests/core/conftest.py"], graph
    )  # pytest imports it, the file does not


@pytest.mark.parametrize(
    ("files", "kinds"),
    [
        (["docs/architecture.md"], {"lint", "types", "house"}),
        (["web/src/app.css"], {"lint", "types", "house", "web", "browser"}),
        (["src/jungoptic/app/papers/templates/card.html"], {"lint", "types", "house", "app", "browser"}),
        (["src/jungoptic/core/optics/frame.py"], {"lint", "types", "house", "core", "app", "browser"}),
        (["tests/core/test_seen.py"], {"lint", "types", "house", "core"}),
    ],
)
def test_the_kinds_that_a_change_runs(graph, files, kinds):
    change = run_tests.Change(files, run_tests.reach(files, graph))
    assert not change.everything
    assert {name for name, build in run_tests.KINDS.items() if build(change)} == kinds


@pytest.mark.parametrize(
    "path", ["run", "requirements.lock", "tests/settings.py", "tests/conftest.py", "tools/calc.py"]
)
def test_what_no_import_tells_of_runs_everything(path: str):
    assert run_tests.Change([path]).everything
