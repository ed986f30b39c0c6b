"""Core as somebody finds it who never saw the project: what is public is listed, described and cited."""

from __future__ import annotations

import ast
import importlib
import inspect
import os
import re
import textwrap
from pathlib import Path
from types import FunctionType, ModuleType

import pytest
from numpydoc.docscrape import NumpyDocString
from numpydoc.validate import validate

from jungoptic import core
from jungoptic.core.sources import SOURCES

# Docstring there, one line that ends in a full stop; every parameter with its type and what it is; what comes
# back; sections known and in order; an example.
DEMANDS = frozenset("GL06 GL07 GL08 SS03 SS06 PR01 PR02 PR03 PR04 PR07 RT01 RT02 RT03 YD01 EX01".split())


def modules() -> list[ModuleType]:
    return [core, *(importlib.import_module(f"jungoptic.core.{name}") for name in core.__all__)]


def own_classes() -> dict[str, type]:
    return {
        f"{value.__module__}.{name}": value
        for module in modules()
        for name in module.__all__
        if inspect.isclass(value := getattr(module, name)) and value.__module__.startswith("jungoptic.core")
    }


def own_functions() -> dict[str, FunctionType]:
    """Public functions, and the public methods of public classes."""
    found = {
        f"{value.__module__}.{name}": value
        for module in modules()
        for name in module.__all__
        if isinstance(value := inspect.unwrap(getattr(module, name)), FunctionType)
    }
    for path, own in own_classes().items():
        for name, value in vars(own).items():
            method = getattr(value, "__func__", value)
            if not name.startswith("_") and isinstance(method, FunctionType) and method.__code__.co_argcount:
                found[f"{path}.{name}"] = method
    return found


FUNCTIONS = own_functions()
CLASSES = own_classes()


def faults(path: str) -> list[str]:
    return [f"{code} {text}" for code, text in validate(path)["errors"] if code in DEMANDS]


@pytest.mark.parametrize("path", sorted(FUNCTIONS))
def test_every_public_function_says_what_it_takes_and_gives(path: str):
    assert faults(path) == []


def test_a_function_that_says_too_little_would_be_found():
    within = "jungoptic.core.match.camera.camera_height_m"  # its own package's, with one line
    assert {fault[:4] for fault in faults(within)} >= {"PR01", "RT01", "EX01"}


def test_the_face_is_what_it_says():
    for module in modules():
        assert list(module.__all__) == sorted(
            module.__all__, key=lambda name: (not name.isupper(), not name[0].isupper(), name)
        ), module.__name__
        assert all(hasattr(module, name) for name in module.__all__ if module is not core), module.__name__
    assert len(FUNCTIONS) > 120 and len(CLASSES) > 60


@pytest.mark.parametrize("path", sorted(CLASSES))
def test_every_public_class_is_described(path: str):
    own = CLASSES[path]
    assert own.__doc__ and not own.__doc__.startswith(f"{own.__name__}("), path
    bare = [
        name
        for name, value in vars(own).items()
        if not name.startswith("_") and isinstance(value, property) and not value.__doc__
    ]
    assert bare == []


@pytest.mark.parametrize(
    "path", [path for path, own in FUNCTIONS.items() if re.search("Array|NDArray", str(own.__annotations__))]
)
def test_arrays_say_their_shape(path: str):
    arrays = re.findall(r"Array", str(FUNCTIONS[path].__annotations__))
    shapes = re.findall(r"ndarray(?: of \w+)?, shape \([^)]+\)", FUNCTIONS[path].__doc__ or "")
    assert len(shapes) == len(arrays)


# --- sources


def cited(function: FunctionType) -> list[str]:
    text = " ".join(NumpyDocString(inspect.getdoc(function) or "")["References"])
    return [key for key in re.split(r"[,\s]+", text) if key]


def holds_a_formula(function: FunctionType) -> bool:
    """Whether quantities are multiplied, divided or put through a function of mathematics in it; a change of
    unit by a constant is none.
    """
    tree = ast.parse(textwrap.dedent(inspect.getsource(function)))

    def is_formula(node: ast.AST) -> bool:
        if isinstance(node, ast.BinOp) and isinstance(node.op, ast.Mult | ast.Div | ast.Pow):
            return not isinstance(node.left, ast.Constant) and not isinstance(node.right, ast.Constant)
        return (
            isinstance(node, ast.Call)
            and isinstance(node.func, ast.Attribute)
            and isinstance(node.func.value, ast.Name)
            and node.func.value.id == "math"
            and node.func.attr not in ("isinf", "isfinite", "isclose", "ceil", "floor")
        )

    return any(map(is_formula, ast.walk(tree)))


# A number is put into words there: no rule of the job.
NO_RULE = {"jungoptic.core.wording.aspect"}


FORMULAS = sorted(path for path, own in FUNCTIONS.items() if holds_a_formula(own) and path not in NO_RULE)


@pytest.mark.parametrize("path", FORMULAS)
def test_every_formula_cites_its_source(path: str):
    assert cited(FUNCTIONS[path])


def test_what_is_cited_is_there():
    keys = {key for function in FUNCTIONS.values() for key in cited(function)}
    assert len(keys) > 30 and len(FORMULAS) > 40
    assert sorted(keys - set(SOURCES)) == []


# --- alone


@pytest.mark.skipif("CORE_ALONE" not in os.environ, reason="looks where nothing but core is installed")
def test_core_stands_alone_where_it_is_tested():
    """The tests ask for an installed core, and no part of the application or its framework is there."""
    assert "site-packages" in Path(core.__file__).parts
    for name in ("django", "ninja", "jungoptic.app"):
        with pytest.raises(ImportError):
            importlib.import_module(name)
