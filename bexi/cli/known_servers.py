"""Keys of servers that the person agreed to once: a file in the form of ssh's known hosts, beside the journals.

A line is `[host]:port type key`, the key in base64; for a certificate of TLS the type is `x509` (the form: OpenSSH's
sshd(8), "SSH_KNOWN_HOSTS FILE FORMAT" [from memory]).
"""

import os

from bexi.cli.journal import state_folder
from bexi.hosts.place import Place, fingerprint_of

_NAME = "known_hosts"


def known_fingerprint(place: Place) -> str:
    """The fingerprint of the key that was agreed to last for this server; empty for none."""
    try:
        lines = (state_folder() / _NAME).read_text().splitlines()
    except (OSError, UnicodeDecodeError):
        return ""
    for line in reversed(lines):
        server, _, key = line.partition(" ")
        if server == _server(place) and (found := fingerprint_of(key)):
            return found
    return ""


def remember(place: Place, key: str) -> None:
    """Keep a key, `type base64`, that the person agreed to; sending in clear text is agreed to each time."""
    if not fingerprint_of(key):
        return
    state_folder().mkdir(mode=0o700, parents=True, exist_ok=True)
    descriptor = os.open(state_folder() / _NAME, os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600)
    with os.fdopen(descriptor, "w") as file:
        file.write(f"{_server(place)} {key}\n")


def _server(place: Place) -> str:
    return f"[{place.host.lower()}]:{place.port}"
