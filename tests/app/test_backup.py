"""Everything kept in one file and put back: equal to the last row and byte, whole or not at all."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
import zipfile
from pathlib import Path

import psycopg
import pytest
from django.conf import settings
from django.db import connection

from jungoptic.app.backup.archive import FILES, LIST, BackupError, opened, read_list
from jungoptic.app.backup.making import back_up
from jungoptic.app.backup.restoring import BESIDE, restore, restore_beside
from jungoptic.app.files.models import StoredFile
from jungoptic.app.shots.models import Shot
from tests.database_url import database_url

ROOT = Path(__file__).resolve().parents[2]


def reached(database: str) -> psycopg.Connection:
    return psycopg.connect(database_url().rpartition("/")[0] + f"/{database}", autocommit=True)


def contents(database: str) -> dict[str, str | None]:
    """A sum of all rows of every table."""
    with reached(database) as there, there.cursor() as cursor:
        cursor.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
        tables = [table for (table,) in cursor.fetchall()]
        found = {}
        for table in tables:
            cursor.execute(f"SELECT md5(string_agg(t::text, E'\\n' ORDER BY t::text)) FROM \"{table}\" t")
            found[table] = cursor.fetchone()[0]
        return found


@pytest.fixture
def away():
    """Databases that a test made are dropped."""
    made: list[str] = []
    yield made
    with reached("postgres") as server:
        for name in made:
            server.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')


def manage(*arguments: str, database: str, files: Path) -> subprocess.Popen[bytes]:
    environment = {
        **os.environ,
        "DATABASE_URL": database_url().rpartition("/")[0] + f"/{database}",
        "DJANGO_SETTINGS_MODULE": "jungoptic.app.settings",
        "JUNGOPTIC_SECRET_KEY": "of-a-test",
        "JUNGOPTIC_FILES": str(files),
        "PYTHONPATH": str(ROOT / "src"),
    }
    return subprocess.Popen(
        [sys.executable, "-m", "jungoptic.app.manage", *arguments],
        env=environment,
        cwd=ROOT,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )


def said(process: subprocess.Popen[bytes]) -> tuple[int, str]:
    out, error = process.communicate(timeout=120)
    return process.returncode, (out + error).decode()


def test_what_comes_out_is_what_went_in_to_the_last_row_and_byte(
    stored: None, tmp_path: Path, away: list[str]
):
    file = tmp_path / "film.backup"
    listed = back_up(file)
    name = str(connection.settings_dict["NAME"])
    away.append(name + BESIDE)
    with opened(file) as archive:
        restore_beside(archive, listed, name + BESIDE)
        assert contents(name + BESIDE) == contents(name)
        kept = list(StoredFile.objects.all())
        assert kept
        for one in kept:
            assert archive.read(FILES + one.path) == one.read()
        assert len(archive.namelist()) == len(kept) + 2
    assert list(tmp_path.iterdir()) == [file]


def test_a_new_machine_has_it_all_and_is_not_overwritten_unless_told(
    stored: None, tmp_path: Path, away: list[str]
):
    file = tmp_path / "film.backup"
    back_up(file)
    name = f"{connection.settings_dict['NAME']}_elsewhere"
    away += [name, name + BESIDE, f"{name}_before_restore"]
    with reached("postgres") as server:
        server.execute(f'CREATE DATABASE "{name}"')
    files = tmp_path / "files"
    code, told = said(manage("restore", str(file), database=name, files=files))
    assert code == 0, told
    assert contents(name) == contents(str(connection.settings_dict["NAME"]))
    one = StoredFile.objects.all()[0]
    assert (files / one.path).read_bytes() == one.read()
    code, told = said(manage("restore", str(file), database=name, files=files))
    assert code == 1
    assert "Something is kept here already" in told
    with reached(name) as there:
        there.execute("UPDATE shots_shot SET title = 'Spoilt'")
    code, told = said(manage("restore", str(file), "--over", database=name, files=files))
    assert code == 0, told
    with reached(name) as there:
        assert there.execute("SELECT count(*) FROM shots_shot WHERE title = 'Spoilt'").fetchone() == (0,)
    with reached(f"{name}_before_restore") as there:  # what was there is kept beside
        assert there.execute("SELECT count(*) FROM shots_shot WHERE title = 'Spoilt'").fetchone() != (0,)


def test_a_backup_that_is_killed_leaves_the_last_one_whole(stored: None, tmp_path: Path, away: list[str]):
    file = tmp_path / "film.backup"
    back_up(file)
    before = file.read_bytes()
    Shot.objects.filter(code="TM010").update(title="Changed since")
    name = str(connection.settings_dict["NAME"])
    files = Path(settings.MEDIA_ROOT)
    process = manage("backup", str(file), database=name, files=files)
    ends = time.monotonic() + 60
    while not any(one != file for one in tmp_path.iterdir()) and time.monotonic() < ends:
        time.sleep(0.002)
    assert process.poll() is None, said(process)
    process.send_signal(signal.SIGKILL)
    process.wait()
    assert file.read_bytes() == before
    away.append(name + BESIDE)
    with opened(file) as archive:
        restore_beside(archive, read_list(archive, file), name + BESIDE)
    with reached(name + BESIDE) as there:
        assert there.execute("SELECT count(*) FROM shots_shot WHERE title = 'Changed since'").fetchone() == (
            0,
        )
    back_up(file)  # what the killed one left lying about is in nobody's way
    with opened(file) as archive:
        restore_beside(archive, read_list(archive, file), name + BESIDE)
    with reached(name + BESIDE) as there:
        assert there.execute("SELECT title FROM shots_shot WHERE code = 'TM010'").fetchone() == (
            "Changed since",
        )


# --- what is no backup


@pytest.fixture
def whole(stored: None, tmp_path: Path) -> Path:
    file = tmp_path / "film.backup"
    back_up(file)
    return file


def rewritten(file: Path, **members: bytes | None) -> Path:
    """A copy with other members, or without them."""
    out = file.with_name(f"other-{len(list(file.parent.iterdir()))}.backup")
    with zipfile.ZipFile(file) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            if members.get(name, b"") is not None and name not in members:
                new.writestr(name, old.read(name))
        for name, data in members.items():
            if data is not None:
                new.writestr(name, data)
    return out


def test_a_damaged_or_foreign_file_is_refused_and_nothing_has_changed(whole: Path):
    before = contents(str(connection.settings_dict["NAME"]))
    with zipfile.ZipFile(whole) as archive:
        first = next(name for name in archive.namelist() if name.startswith(FILES))
        told = archive.read(LIST).decode()
    cut = whole.with_name("cut.backup")
    cut.write_bytes(whole.read_bytes()[: whole.stat().st_size // 2])
    text = whole.with_name("text.backup")
    text.write_text("no zip at all")
    newest = told.replace('"migrations": [', '"migrations": [\n  "shots.9999_of_tomorrow",')
    for file, words in (
        (whole.with_name("missing.backup"), "There is no file"),
        (cut, "never finished"),
        (text, "no backup of this program"),
        (rewritten(whole, **{first: b"other bytes"}), "is damaged"),
        (rewritten(whole, **{first: None}), "not whole"),
        (rewritten(whole, **{LIST: None}), "never finished"),
        (rewritten(whole, **{LIST: b'{"format": "other"}'}), "no backup of this program"),
        (rewritten(whole, **{LIST: told.replace('"version": 1', '"version": 9').encode()}), "version 9"),
        (rewritten(whole, **{LIST: newest.encode()}), "newer program"),
        (rewritten(whole, **{"files/../../etc/passwd": b"x"}), "does not name"),
        (
            rewritten(
                whole,
                **{
                    "files/../../x": b"x",
                    LIST: told.replace(
                        '"members": {',
                        '"members": {"files/../../x": {"bytes": 1, "sha256":'
                        ' "2d711642b726b04401627ca9fbac32f5c8530fb1903cc4db02258717921a4881"},',
                    ).encode(),
                },
            ),
            "leads elsewhere",
        ),
        (whole, "Something is kept here already"),
    ):
        with pytest.raises(BackupError, match=words):
            restore(file)
    assert contents(str(connection.settings_dict["NAME"])) == before


def test_a_file_that_the_storage_has_lost_or_changed_makes_no_backup(stored: None, tmp_path: Path):
    one = StoredFile.objects.all()[0]
    StoredFile.objects.filter(pk=one.pk).update(sha256="0" * 64)
    with pytest.raises(BackupError, match="is not what was kept there"):
        back_up(tmp_path / "film.backup")
    StoredFile.objects.filter(pk=one.pk).update(file="kept/gone")
    with pytest.raises(BackupError, match="not in the storage any more"):
        back_up(tmp_path / "film.backup")
    assert list(tmp_path.iterdir()) == []
    with pytest.raises(BackupError, match="There is no folder"):
        back_up(tmp_path / "nowhere" / "film.backup")
