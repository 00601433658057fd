"""The stand-in's SFTP server."""

import errno
import os
import socket
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import paramiko
from paramiko.common import AUTH_FAILED, AUTH_SUCCESSFUL, OPEN_SUCCEEDED
from paramiko.sftp import SFTP_FAILURE, SFTP_OK

from bexi.standin.account import PASSWORD, USER, ServerKeys
from bexi.standin.mischief import Dropped, Mischief


class _Account(paramiko.ServerInterface):
    """Lets the one user in, by password or by an authorised key."""

    def __init__(self, authorised: Path) -> None:
        self._authorised = authorised

    def get_allowed_auths(self, username: str) -> str:
        return "password,publickey"

    def check_auth_password(self, username: str, password: str) -> int:
        right = (username, password) == (USER, PASSWORD)
        return AUTH_SUCCESSFUL if right else AUTH_FAILED

    def check_auth_publickey(self, username: str, key: paramiko.PKey) -> int:
        known = self._authorised.read_text().split() if self._authorised.exists() else []
        return AUTH_SUCCESSFUL if username == USER and key.get_base64() in known else AUTH_FAILED

    def check_channel_request(self, kind: str, chanid: int) -> int:
        return OPEN_SUCCEEDED


class _Handle(paramiko.SFTPHandle):
    """An open file; what is written counts for mischief."""

    def __init__(self, flags: int, mischief: Mischief, transport: paramiko.Transport) -> None:
        super().__init__(flags)
        self._mischief = mischief
        self._transport = transport

    def write(self, offset: int, data: bytes) -> int:  # type: ignore[override]
        try:
            self._mischief.before_storing(len(data))
        except Dropped:
            self._transport.close()
            return SFTP_FAILURE
        except OSError as error:
            return _code(error)
        return super().write(offset, data)

    def stat(self) -> paramiko.SFTPAttributes | int:
        return paramiko.SFTPAttributes.from_stat(os.fstat(self.readfile.fileno()))  # type: ignore[attr-defined]


class _Files(paramiko.SFTPServerInterface):
    """The served folders, as far as mischief lets one."""

    def __init__(self, server: paramiko.ServerInterface, root: Path, mischief: Mischief, transport: paramiko.Transport):
        super().__init__(server)
        self._root = root.resolve()
        self._mischief = mischief
        self._transport = transport

    def _real(self, path: str) -> Path:
        return self._root / super().canonicalize(path).lstrip("/")

    def canonicalize(self, path: str) -> str:
        """Follow links, as servers do; what they lead to outside keeps its own name."""
        real = self._real(path).resolve()
        return (
            f"/{real.relative_to(self._root)}".removesuffix("/.") or "/"
            if real.is_relative_to(self._root)
            else str(real)
        )

    def list_folder(self, path: str) -> list[paramiko.SFTPAttributes] | int:
        self._mischief.before_operation()
        try:
            return [
                paramiko.SFTPAttributes.from_stat(file.lstat(), file.name)
                for file in sorted(self._real(path).iterdir())
            ]
        except OSError as error:
            return _code(error)

    def stat(self, path: str) -> paramiko.SFTPAttributes | int:
        try:
            return paramiko.SFTPAttributes.from_stat(self._real(path).stat())
        except OSError as error:
            return _code(error)

    def lstat(self, path: str) -> paramiko.SFTPAttributes | int:
        try:
            return paramiko.SFTPAttributes.from_stat(self._real(path).lstat())
        except OSError as error:
            return _code(error)

    def open(self, path: str, flags: int, attr: paramiko.SFTPAttributes) -> paramiko.SFTPHandle | int:
        self._mischief.before_operation()
        file, writing = self._real(path), bool(flags & (os.O_WRONLY | os.O_RDWR))
        try:
            if writing:
                self._mischief.before_opening(file)
            opened = os.fdopen(os.open(file, flags, 0o644), "wb" if writing else "rb", buffering=0)
        except OSError as error:
            return _code(error)
        handle = _Handle(flags, self._mischief, self._transport)
        handle.filename = str(file)  # type: ignore[attr-defined]
        handle.readfile = handle.writefile = opened  # type: ignore[attr-defined]
        return handle

    def remove(self, path: str) -> int:
        def work() -> None:
            self._mischief.before_changing(self._real(path))
            self._real(path).unlink()

        return self._tried(work)

    def rename(self, oldpath: str, newpath: str) -> int:
        if self._real(newpath).exists():
            return SFTP_FAILURE  # SFTP 3: renaming never overwrites
        return self.posix_rename(oldpath, newpath)

    def posix_rename(self, oldpath: str, newpath: str) -> int:
        source, target = self._real(oldpath), self._real(newpath)

        def work() -> None:
            self._mischief.before_renaming(source, target)
            source.replace(target)

        return self._tried(work)

    def _tried(self, work: Callable[[], None]) -> int:
        self._mischief.before_operation()
        try:
            work()
        except OSError as error:
            return _code(error)
        return SFTP_OK


def _code(error: OSError) -> int:
    if error.errno == errno.ENOSPC:
        return SFTP_FAILURE
    return paramiko.SFTPServer.convert_errno(error.errno or errno.EIO)


@contextmanager
def sftp_running(host: str, port: int, root: Path, keys: ServerKeys, mischief: Mischief) -> Iterator[None]:
    """Serve a folder over SFTP while the block runs; keys in the file `authorised` beside the host key are let in."""
    listener = socket.create_server((host, port))
    listener.settimeout(0.2)
    over = threading.Event()
    transports: list[paramiko.Transport] = []

    def accept() -> None:
        while not over.is_set():
            try:
                connection, _ = listener.accept()
            except (TimeoutError, OSError):
                continue
            transport = paramiko.Transport(connection)
            transport.add_server_key(paramiko.ECDSAKey.from_private_key_file(str(keys.host_key)))
            transport.set_subsystem_handler("sftp", paramiko.SFTPServer, _Files, root, mischief, transport)
            with suppress(paramiko.SSHException, EOFError, OSError):
                transport.start_server(server=_Account(keys.host_key.parent / "authorised"), event=threading.Event())
            transports.append(transport)

    thread = threading.Thread(target=accept, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        listener.close()
        thread.join(2)
        for transport in transports:
            transport.close()
