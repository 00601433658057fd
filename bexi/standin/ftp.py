"""The stand-in's FTP server, plain and over TLS."""

import logging
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from threading import Event, Thread
from typing import IO, cast

from pyftpdlib.authorizers import DummyAuthorizer
from pyftpdlib.filesystems import AbstractedFS
from pyftpdlib.handlers import FTPHandler, TLS_FTPHandler
from pyftpdlib.servers import ThreadedFTPServer

from bexi.standin.account import PASSWORD, USER, ServerKeys
from bexi.standin.mischief import Dropped, Mischief

_EVERYTHING = "elradfmwMT"


def _files(mischief: Mischief) -> type[AbstractedFS]:
    class Files(AbstractedFS):  # type: ignore[misc]
        """The served folders, as far as mischief lets one."""

        def open(self, filename: str, mode: str) -> IO[bytes]:
            mischief.before_operation()
            if "r" not in mode:
                mischief.before_opening(Path(filename))
            file = super().open(filename, mode)
            return file if "r" in mode else cast(IO[bytes], _Counted(file, mischief, self.cmd_channel))

        def rename(self, src: str, dst: str) -> None:
            mischief.before_operation()
            mischief.before_renaming(Path(src), Path(dst))
            super().rename(src, dst)

        def remove(self, path: str) -> None:
            mischief.before_operation()
            mischief.before_changing(Path(path))
            super().remove(path)

    return Files


class _Counted:
    """A file that tells mischief of every byte before it is written."""

    def __init__(self, file: IO[bytes], mischief: Mischief, channel: FTPHandler) -> None:
        self._file = file
        self._mischief = mischief
        self._channel = channel

    def write(self, data: bytes) -> int:
        try:
            self._mischief.before_storing(len(data))
        except Dropped:
            self._channel.close()
            return len(data)
        except OSError as error:
            # The library cannot tell a full disk by itself: an error in a file leaves the client without an answer.
            data_channel = self._channel.data_channel
            data_channel._resp = (f"452 {error.strerror}.", logging.getLogger("pyftpdlib").info)
            data_channel.close()
            return len(data)
        return self._file.write(data)

    def __getattr__(self, name: str) -> object:
        return getattr(self._file, name)


@contextmanager
def ftp_running(host: str, port: int, root: Path, keys: ServerKeys, mischief: Mischief) -> Iterator[None]:
    """Serve a folder over FTP while the block runs; a client may ask for TLS (RFC 4217)."""
    logging.getLogger("pyftpdlib").addHandler(logging.NullHandler())  # else it sets up logging of its own
    logging.getLogger("pyftpdlib").propagate = False
    authorizer = DummyAuthorizer()
    authorizer.add_user(USER, PASSWORD, str(root), perm=_EVERYTHING)
    handler = type(
        "Handler",
        (TLS_FTPHandler,),
        {
            "authorizer": authorizer,
            "abstracted_fs": _files(mischief),
            "certfile": str(keys.certificate),
            "banner": "Stand-in host",
            "auth_failed_timeout": 0,
            "max_login_attempts": 1000,
        },
    )
    server = ThreadedFTPServer((host, port), handler)
    over = Event()

    def serve() -> None:
        while not over.is_set():
            server.serve_forever(timeout=0.1, blocking=False, handle_exit=False)
        server.close_all()

    thread = Thread(target=serve, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join(2)
