"""Opening the place where a site lives, and trying out what can be done there."""

import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from pkgutil import resolve_name

from bexi.core.errors import HostRefused
from bexi.hosts.careful import CarefulHost
from bexi.hosts.guarded import GuardedStorage
from bexi.hosts.patience import FOR_A_LOOK, Patience
from bexi.hosts.place import Place, UnknownServer
from bexi.hosts.protocol import Storage
from bexi.hosts.secret import Secret

_PROBE, _MOVED = ".bexi-probe", ".bexi-probe-2"


@contextmanager
def opened(place: Place, secret: Secret, patience: Patience = FOR_A_LOOK) -> Iterator[CarefulHost]:
    """A host on this place while the block runs; raises HostRefused, UnknownServer before the secret is sent."""
    with _storage(place, secret, patience) as storage:
        yield CarefulHost(storage)


@contextmanager
def _storage(place: Place, secret: Secret, patience: Patience) -> Iterator[Storage]:
    opener = resolve_name(place.kind.opener)
    storage = GuardedStorage(lambda line: opener(place, secret, line), patience)
    try:
        yield storage
    finally:
        storage.close()


@dataclass(frozen=True)
class Trial:
    """One thing that was tried at a place: whether it works, how long it took in ms, and what the place said."""

    what: str
    works: bool
    milliseconds: int
    said: str = ""


def try_out(place: Place, secret: Secret, patience: Patience = FOR_A_LOOK) -> list[Trial]:
    """Connect, list, write, read, rename and delete, with a probe file that is cleaned up.

    Raises UnknownServer; any other failure is told as a trial that does not work.
    """
    trials: list[Trial] = []

    @contextmanager
    def trying(what: str) -> Iterator[None]:
        start = time.perf_counter()
        said = ""
        try:
            yield
        except UnknownServer:
            raise
        except HostRefused as refusal:
            said = refusal.sentence
        trials.append(Trial(what, not said, round(1000 * (time.perf_counter() - start)), said))

    with ExitStack() as stack:
        with trying("connect"):
            storage = stack.enter_context(_storage(place, secret, patience))
        if not trials[0].works:
            return trials
        with trying("list"):
            next(iter(storage.walk()), None)
        with trying("write"):
            storage.put(_PROBE, b"probe")
        with trying("read"):
            if storage.get(_PROBE, 100) != b"probe":
                raise HostRefused("not-as-written", "What was written read back differently.")
        with trying("rename"):
            storage.move(_PROBE, _MOVED)
        with trying("delete"):
            storage.remove(_MOVED)
            storage.remove(_PROBE)
    return trials
