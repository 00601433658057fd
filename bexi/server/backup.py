"""`bexi backup` and `bexi restore`: all that Bexi keeps but its keys, in one file, also while it runs.

The file is a plain TAR, gzipped (POSIX.1-1988 ustar and later): `bexi.sqlite3`, `blobs/…` and `contents.json` with the
SHA-256 of each.
"""

import hashlib
import io
import json
import os
import sqlite3
import tarfile
import tempfile
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Annotated

import typer

from bexi.server import running
from bexi.server.serve import DataOption, fail

_DATABASE, _CONTENTS, _BLOBS = "bexi.sqlite3", "contents.json", "blobs"
_FORMAT = 1
_CHUNK = 1024 * 1024

FileArgument = Annotated[Path, typer.Argument(metavar="FILE", help="A backup file, like bexi-backup.tar.gz.")]


class Damaged(Exception):
    """A file that is no whole backup; its argument is a sentence."""


def backup_command(file: FileArgument, data: DataOption = None) -> None:
    """Write all data but the keys into FILE, and check it by reading it back."""
    folder = _own_folder(data)
    if not (folder / _DATABASE).is_file():
        fail(f"{folder} holds no data of Bexi. Name its folder with --data.")
    if file.exists():
        fail(f"{file} is there already. Name another file.")
    try:
        count = write(folder, file)
        _checked(file)
    except (OSError, sqlite3.Error, Damaged) as error:
        file.unlink(missing_ok=True)
        fail(f"The backup could not be made: {error}.")
    print(f"{file}: the database and {count} kept files, read back and found whole.")
    print("The keys are not in it: keep vault-key of the data folder somewhere else.")


def restore_command(file: FileArgument, data: DataOption = None) -> None:
    """Bring all data back from FILE; what was there before is kept in a backup beside it."""
    folder = _own_folder(data)
    try:
        names = _checked(file)
        before = _set_aside(folder)
        _put_back(folder, file, names)
    except (OSError, sqlite3.Error, Damaged) as error:
        fail(f"{file} could not be restored: {error}.")
    import django
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0)
    print(f"Restored from {file}.{f' What was there before is in {before}.' if before else ''}")


def _own_folder(data: Path | None) -> Path:
    """The data folder; ends the command when the data lie elsewhere."""
    for name, how in (("BEXI_DATABASE", "pg_dump and pg_restore"), ("BEXI_BLOBS", "what its storage offers")):
        if os.environ.get(name):
            fail(f"{name} says that data lie outside the data folder. Back them up with {how}.")
    return running.data_folder(data, "bexi")


def write(folder: Path, file: Path) -> int:
    """Write a backup of a data folder; returns the number of kept files in it. Raises OSError or sqlite3.Error."""
    sums: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as temporary, tarfile.open(file, "x:gz", compresslevel=4) as archive:
        copy = Path(temporary) / _DATABASE
        _copy_database(folder / _DATABASE, copy)  # first: whatever it points at is on the disk already
        for path, name in [(copy, _DATABASE), *_blobs(folder)]:
            archive.add(path, name, recursive=False)
            sums[name] = _sum(path)
        contents = json.dumps({"format": _FORMAT, "files": sums}).encode()
        member = tarfile.TarInfo(_CONTENTS)
        member.size = len(contents)
        archive.addfile(member, io.BytesIO(contents))
    return len(sums) - 1


def _copy_database(source: Path, target: Path) -> None:
    """A whole copy, though others write meanwhile (SQLite's online backup)."""
    with sqlite3.connect(source, timeout=30) as live, sqlite3.connect(target) as copy:
        live.backup(copy)
    live.close()
    copy.close()


def _blobs(folder: Path) -> Iterator[tuple[Path, str]]:
    for path in sorted((folder / _BLOBS).glob("??/*")):
        if path.is_file() and len(path.name) == 64:  # not one that is just being written
            yield path, f"{_BLOBS}/{path.parent.name}/{path.name}"


def _sum(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _checked(file: Path) -> list[str]:
    """The names of the files in a backup; raises Damaged unless each is as it was written and belongs there."""
    try:
        with tarfile.open(file, "r:gz") as archive:
            sums = {member.name: _sum_of(archive, member) for member in archive if member.isreg()}
            told = archive.extractfile(_CONTENTS)
            contents = json.loads(told.read()) if told else {}
    except (tarfile.TarError, KeyError, ValueError, EOFError) as error:
        raise Damaged("it is no whole backup of Bexi") from error
    del sums[_CONTENTS]
    if contents.get("format") != _FORMAT or contents.get("files") != sums or _DATABASE not in sums:
        raise Damaged("it is no whole backup of Bexi")
    if any(name != _DATABASE and not _is_blob(name, digest) for name, digest in sums.items()):
        raise Damaged("it holds files that do not belong in a backup")
    return list(sums)


def _is_blob(name: str, digest: str) -> bool:
    return name == f"{_BLOBS}/{digest[:2]}/{digest}"


def _sum_of(archive: tarfile.TarFile, member: tarfile.TarInfo) -> str:
    digest = hashlib.sha256()
    stream = archive.extractfile(member)
    while stream and (chunk := stream.read(_CHUNK)):
        digest.update(chunk)
    return digest.hexdigest()


def _set_aside(folder: Path) -> Path | None:
    """A backup of what is there now, None for nothing."""
    if not (folder / _DATABASE).is_file() or not (folder / _DATABASE).stat().st_size:
        return None
    before = folder / f"before-restoring-{datetime.now():%Y%m%d-%H%M%S-%f}.tar.gz"
    write(folder, before)
    return before


def _put_back(folder: Path, file: Path, names: list[str]) -> None:
    """The kept files first, so that the database never points at one that is not there."""
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=folder) as temporary, tarfile.open(file, "r:gz") as archive:
        for name in names:
            stream = archive.extractfile(name)
            target = Path(temporary) / _DATABASE if name == _DATABASE else folder / name
            if stream is None or target.exists():
                continue
            target.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
            part = target.with_suffix(".part")
            with part.open("wb") as opened:
                while chunk := stream.read(_CHUNK):
                    opened.write(chunk)
            part.replace(target)
        copy = Path(temporary) / _DATABASE
        with sqlite3.connect(copy) as probe:
            if probe.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                raise Damaged("its database is damaged")
        probe.close()
        _copy_database(copy, folder / _DATABASE)
