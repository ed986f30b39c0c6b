"""The files for a server say what is there: programs, modules and names of settings."""

from __future__ import annotations

import configparser
import importlib.util
import re
import shlex
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
DEPLOY = ROOT / "packaging" / "deploy"
GUIDE = (ROOT / "docs" / "deploy.md").read_text()
SETTINGS = (ROOT / "src" / "jungoptic" / "app" / "settings.py").read_text()
UNITS = sorted(DEPLOY.glob("*.service"))
ELSEWHERE = "/opt/jungoptic/"


def unit(path: Path) -> configparser.ConfigParser:
    read = configparser.ConfigParser(interpolation=None, strict=True)
    read.optionxform = str  # type: ignore[assignment,method-assign]
    read.read(path)
    return read


def test_every_name_of_the_environment_is_one_that_the_settings_read_and_the_guide_describes():
    named = set(re.findall(r"^#?([A-Z_0-9]+)=", (DEPLOY / "jungoptic.env").read_text(), re.MULTILINE))
    ours = named - {"DJANGO_SETTINGS_MODULE", "PYTHONPATH"}
    assert len(ours) > 8
    for name in ours:
        assert f'"{name}"' in SETTINGS, name
        assert name in GUIDE or f"_{name.rpartition('_')[2]}" in GUIDE, name


@pytest.mark.parametrize("path", UNITS, ids=lambda path: path.stem)
def test_each_service_starts_what_is_there(path: Path):
    service = unit(path)["Service"]
    words = shlex.split(service["ExecStart"])
    if words[:2] == ["/bin/sh", "-c"]:
        words = shlex.split(words[2])[1:]
    program = ROOT / words[0].removeprefix(ELSEWHERE)
    assert words[0].startswith(ELSEWHERE) and program.exists(), words[0]
    modules = [word.partition(":")[0] for word in words if word.startswith("jungoptic.")]
    assert modules
    for module in modules:
        assert importlib.util.find_spec(module), module
    assert service["User"] == "jungoptic" and service["NoNewPrivileges"] == "yes"
    assert path.stem in GUIDE.replace("`-", "`jungoptic-")


def test_the_services_are_the_processes_of_the_start_command():
    """What ./run starts, a server runs: the same queues, the same entries."""
    started = "".join((ROOT / "Procfile").read_text().split())
    for path in UNITS:
        words = unit(path)["Service"]["ExecStart"].split()
        for word in words:
            if word.startswith("jungoptic.app") and "backup" not in path.stem:
                assert word in started, (path.stem, word)
            if words[words.index(word) - 1] == "--queues":
                assert f"--queues{word}" in started


def test_the_proxy_says_that_it_is_tls_and_reaches_each_port_that_a_service_has():
    proxy = (DEPLOY / "nginx.conf").read_text()
    assert proxy.count("proxy_set_header X-Forwarded-Proto $scheme;") == proxy.count("proxy_pass")
    bound = {
        port
        for path in UNITS
        for port in re.findall(r"(?:127\.0\.0\.1:|--port )(\d+)", unit(path)["Service"]["ExecStart"])
    }
    assert bound == set(re.findall(r"proxy_pass http://127\.0\.0\.1:(\d+);", proxy))
