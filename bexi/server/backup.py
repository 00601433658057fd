"""`bexi backup` and `bexi restore`: all that Bexi keeps but its keys, in one file, also while it runs.

The file is a plain TAR, gzipped (POSIX.1-1988 ustar and later): `bexi.sqlite3`, `blobs/…` and `contents.json` with the
SHA-256 of each. Nobody but its owner can read it, and nobody gets in with it: sessions and tokens are left out, and so
is whatever only counts for the process that runs now.
"""

import hashlib
import io
import json
import os
import shutil
import sqlite3
import sys
import tarfile
import tempfile
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Annotated, Any

import typer

from bexi.server import running
from bexi.server.kept_files import private_folder
from bexi.server.serve import DataOption, fail, set_up

_DATABASE, _CONTENTS, _BLOBS = "bexi.sqlite3", "contents.json", "blobs"
_FORMAT = 1
_CHUNK = 1024 * 1024
_MIGRATIONS = "django_migrations"
_OF_NOW = (
    *("django_session", "people_token", "machines_lease", "machines_workerseen", "installs_attempt"),
    *("axes_accessattempt", "axes_accesslog", "axes_accessfailurelog", "axes_accessattemptexpiration"),
    "django_tasks_database_dbtaskresult",
)
"""Tables whose rows let somebody in, or only count for the processes that run now."""
_NOT_BEGUN = "It waited when this backup was made, so nothing has been changed. Plan again."
_INTERRUPTED = "This comes from a backup, so Bexi changes nothing on the site by itself. Look it up, then put it back."
_LEFT_UNDONE = (
    ("UPDATE installs_install SET state = 'put-back', sealed = '', problem = ? WHERE state = 'waiting'", _NOT_BEGUN),
    (
        "UPDATE installs_install SET state = 'stuck', asks_first = 1, problem = ? WHERE state IN ('started', 'stuck')",
        _INTERRUPTED,
    ),
)

FileArgument = Annotated[Path, typer.Argument(metavar="FILE", help="A backup file, like bexi-backup.tar.gz.")]


class Damaged(Exception):
    """A file that is no backup that can be restored; its argument is the end of a sentence."""


@dataclass(frozen=True)
class Contents:
    """What a backup holds that is whole: names of its files; and names of those that are damaged."""

    whole: list[str]
    damaged: list[str]


def backup_command(
    file: FileArgument,
    data: DataOption = None,
    verify: Annotated[bool, typer.Option("--verify", help="Only read FILE, and say whether it is intact.")] = False,
) -> None:
    """Write all data but the keys into FILE, and check it by reading it back."""
    if verify:
        _verify(file)
        return
    folder = _own_folder(data)
    if not (folder / _DATABASE).is_file():
        fail(f"{folder} contains no Bexi data. Name its folder with --data.")
    if file.exists():
        fail(f"{file} is there already. Name another file.")
    try:
        written = write(folder, file)
        _checked(file)
    except (OSError, sqlite3.Error, Damaged) as error:
        file.unlink(missing_ok=True)
        fail(f"The backup could not be made: {_reason(error)}.")
    print(f"{file}: the database and {_files(len(written.whole))}, read back and found intact.")
    print("The keys are not in it: keep vault-key of the data folder somewhere else.")
    _tell_damaged(written.damaged, "on the disk, so it is not in the backup")


def restore_command(file: FileArgument, data: DataOption = None) -> None:
    """Bring all data back from FILE; what was there before is kept in a backup beside it."""
    folder = _own_folder(data)
    set_up()
    from django.core.management import call_command

    from bexi.server import locks

    try:
        with locks.holding("serving"):
            contents = _checked(file)
            with _database_of(file, folder) as database:
                before = _set_aside(folder)
                _put_back(folder, file, contents, database)
            call_command("migrate", verbosity=0)
    except locks.Held:
        fail(f"Bexi runs on {folder}. Stop it with Ctrl-C, or stop its service, then restore.")
    except (OSError, sqlite3.Error, Damaged) as error:
        fail(f"{file} could not be restored: {_reason(error)}.")
    print(f"Restored from {file}.{f' What was there before is in {before}.' if before else ''}")
    print("Everybody must sign in again and make new tokens.")
    _tell_damaged(contents.damaged, "in the backup, so it was not restored")


def _verify(file: Path) -> None:
    try:
        contents = _checked(file)
        with tempfile.TemporaryDirectory() as temporary:
            folder = running.data_folder(Path(temporary), "bexi")  # settings want one; that of the data is not touched
            set_up()
            with _database_of(file, folder):
                pass
    except (OSError, sqlite3.Error, Damaged) as error:
        fail(f"{file} cannot be restored: {_reason(error)}.")
    print(f"{file}: the database and {_files(len(contents.whole) - 1)}, all intact.")
    _tell_damaged(contents.damaged, "in the backup")


def _files(count: int) -> str:
    return "1 file" if count == 1 else f"{count:,} files"


def _tell_damaged(names: list[str], where: str) -> None:
    """Name what is damaged, each on a line, and end with 1 if anything is."""
    for name in names:
        print(f"{name} is damaged {where}.", file=sys.stderr)
    if names:
        raise typer.Exit(1)


def _reason(error: Exception) -> str:
    return (error.strerror if isinstance(error, OSError) and error.strerror else str(error)).rstrip(".")


def _own_folder(data: Path | None) -> Path:
    """The data folder; ends the command when the data lie elsewhere."""
    for name, how in (("BEXI_DATABASE", "pg_dump and pg_restore"), ("BEXI_BLOBS", "what its storage offers")):
        if os.environ.get(name):
            fail(f"{name} says that data lie outside the data folder. Back them up with {how}.")
    return running.data_folder(data, "bexi")


def write(folder: Path, file: Path) -> Contents:
    """Write a backup of a data folder; says which kept files are in it. Raises OSError or sqlite3.Error."""
    sums: dict[str, str] = {}
    damaged = []
    with tempfile.TemporaryDirectory() as temporary, _private(file) as target:
        copy = Path(temporary) / _DATABASE
        _copy_database(folder / _DATABASE, copy)  # first: whatever it points at is on the disk already
        _leave_out(copy)
        with tarfile.open(fileobj=target, mode="w:gz", compresslevel=4) as archive:
            for path, name in [(copy, _DATABASE), *_blobs(folder)]:
                sha256 = _sum(path)
                if name != _DATABASE and sha256 != path.name:
                    damaged.append(name)
                    continue
                archive.add(path, name, recursive=False, filter=_owned)
                sums[name] = sha256
            contents = json.dumps({"format": _FORMAT, "files": sums}).encode()
            member = _owned(tarfile.TarInfo(_CONTENTS))
            member.size = len(contents)
            archive.addfile(member, io.BytesIO(contents))
    return Contents([name for name in sums if name != _DATABASE], damaged)


@contextmanager
def _private(file: Path) -> Iterator[Any]:
    """A new file that only its owner can read, whatever the umask; on the disk when the block ends."""
    descriptor = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(descriptor, "wb") as target:
        os.fchmod(descriptor, 0o600)
        yield target
        target.flush()
        os.fsync(descriptor)


def _owned(member: tarfile.TarInfo) -> tarfile.TarInfo:
    """A member that nobody but its owner can read once it is unpacked, by whatever program."""
    member.mode, member.uname, member.gname, member.uid, member.gid = 0o600, "", "", 0, 0
    return member


def _copy_database(source: Path, target: Path) -> None:
    """A whole copy, though others write meanwhile (SQLite's online backup)."""
    with closing(sqlite3.connect(source, timeout=30)) as live, closing(sqlite3.connect(target)) as copy:
        live.backup(copy)


def _leave_out(database: Path) -> None:
    """Empty what lets somebody in or counts for now only, so that no byte of it is left, and end what was under way."""
    with closing(sqlite3.connect(database)) as copy:
        there = {row[0] for row in copy.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        for table in _OF_NOW:
            if table in there:
                copy.execute(f"DELETE FROM {table}")  # one of the names above
        if "installs_install" in there:
            columns = {row[1] for row in copy.execute("PRAGMA table_info(installs_install)")}
            for statement, told in _LEFT_UNDONE:
                if "asks_first" in columns or "asks_first" not in statement:
                    copy.execute(statement, [told])
        copy.commit()
        copy.execute("PRAGMA journal_mode=DELETE")
        copy.execute("VACUUM")


def _blobs(folder: Path) -> Iterator[tuple[Path, str]]:
    for path in sorted((folder / _BLOBS).glob("??/*")):
        if path.is_file() and len(path.name) == 64:  # not one that is just being written
            yield path, f"{_BLOBS}/{path.parent.name}/{path.name}"


def _sum(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _checked(file: Path) -> Contents:
    """What is in a backup; raises Damaged for a file that is none, or whose database is not as it was written."""
    try:
        with tarfile.open(file, "r:gz") as archive:
            sums = {member.name: _sum_of(archive, member) for member in archive if member.isreg()}
            told = archive.extractfile(_CONTENTS)
            contents = json.loads(told.read(_CHUNK * 64)) if told else None
    except (tarfile.TarError, KeyError, ValueError, EOFError, RecursionError) as error:
        raise Damaged("it is not a complete Bexi backup") from error
    contents = contents if isinstance(contents, dict) else {}
    files = contents.get("files")
    if not isinstance(files, dict) or contents.get("format") != _FORMAT:
        raise Damaged("it is not a complete Bexi backup: its list of contents is missing, or of another form")
    del sums[_CONTENTS]
    if sums.keys() != files.keys() or _DATABASE not in sums or sums[_DATABASE] != files[_DATABASE]:
        raise Damaged("it is not a complete Bexi backup")
    if any(name != _DATABASE and not _is_blob(name, str(digest)) for name, digest in files.items()):
        raise Damaged("it holds files that do not belong in a backup")
    damaged = [name for name, digest in sums.items() if digest != files[name]]
    return Contents([name for name in sums if name not in damaged], damaged)


def _is_blob(name: str, digest: str) -> bool:
    return name == f"{_BLOBS}/{digest[:2]}/{digest}" and len(digest) == 64 and digest.isalnum()


def _sum_of(archive: tarfile.TarFile, member: tarfile.TarInfo) -> str:
    digest = hashlib.sha256()
    stream = archive.extractfile(member)
    while stream and (chunk := stream.read(_CHUNK)):
        digest.update(chunk)
    return digest.hexdigest()


@contextmanager
def _database_of(file: Path, folder: Path) -> Iterator[Path]:
    """The database of a backup, unpacked aside; raises Damaged for one that this Bexi cannot take."""
    private_folder(folder)
    with tempfile.TemporaryDirectory(dir=folder) as temporary, tarfile.open(file, "r:gz") as archive:
        copy = Path(temporary) / _DATABASE
        _unpack(archive, _DATABASE, copy)
        _refuse_foreign(copy)
        yield copy


def _refuse_foreign(database: Path) -> None:
    try:
        with closing(sqlite3.connect(database)) as probe:
            if probe.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                raise Damaged("its database is damaged")
            tables = {row[0] for row in probe.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if not tables:
                raise Damaged("its database is empty")
            if _MIGRATIONS not in tables:
                raise Damaged("its database is not Bexi's")
            applied = {(app, name) for app, name in probe.execute(f"SELECT app, name FROM {_MIGRATIONS}")}
    except sqlite3.DatabaseError as error:
        raise Damaged("its database is damaged") from error
    if ("sites", "0001_initial") not in applied:
        raise Damaged("its database is not Bexi's")
    if unknown := applied - _known_migrations():
        newest = ", ".join(sorted(f"{app} {name}" for app, name in unknown)[:2])
        raise Damaged(f"it was made by a newer Bexi (its database knows {newest}); bring this one up to date first")


def _known_migrations() -> set[tuple[str, str]]:
    from django.db.migrations.loader import MigrationLoader

    return set(MigrationLoader(None).disk_migrations)


def _set_aside(folder: Path) -> Path | None:
    """A backup of what is there now, None for nothing; of a database that cannot be read any more a plain copy."""
    if not (folder / _DATABASE).is_file() or not (folder / _DATABASE).stat().st_size:
        return None
    before = folder / f"before-restoring-{datetime.now():%Y%m%d-%H%M%S-%f}.tar.gz"
    try:
        write(folder, before)
    except sqlite3.DatabaseError:
        before.unlink(missing_ok=True)
        before = before.with_name(before.name.replace(".tar.gz", ".sqlite3"))
        with _private(before) as target, (folder / _DATABASE).open("rb") as source:
            shutil.copyfileobj(source, target)
        for rest in (_DATABASE, f"{_DATABASE}-wal", f"{_DATABASE}-shm"):
            (folder / rest).unlink(missing_ok=True)
    return before


def _put_back(folder: Path, file: Path, contents: Contents, database: Path) -> None:
    """The kept files first, so that the database never points at one that is not there."""
    with tarfile.open(file, "r:gz") as archive:
        for name in contents.whole:
            target = folder / name
            if name != _DATABASE and not (target.exists() and _sum(target) == target.name):
                private_folder(target.parent, folder)
                part = target.with_suffix(".part")
                part.unlink(missing_ok=True)
                _unpack(archive, name, part)
                part.replace(target)
    live = folder / _DATABASE
    os.close(os.open(live, os.O_RDWR | os.O_CREAT, 0o600))
    live.chmod(0o600)
    _copy_database(database, live)


def _unpack(archive: tarfile.TarFile, name: str, target: Path) -> None:
    stream = archive.extractfile(name)
    with _private(target) as opened:
        while stream and (chunk := stream.read(_CHUNK)):
            opened.write(chunk)
