"""Which machines Bexi may ask: any that a person typed, but never those that only this machine's surroundings have.

Left out are link-local addresses, where clouds keep their metadata services (RFC 3927, RFC 4291 §2.5.6), a few others
of that use, and what is no address of one machine. What a name leads to is looked at after it was resolved, and the
very address that was looked at is the one that is connected to.
"""

import ipaddress
import socket
from collections.abc import Callable, Sequence
from typing import TypeVar

from bexi.core.errors import HostRefused

Resolve = Callable[[str, int], Sequence[str]]
"""Finds the addresses of a host; raises OSError."""

T = TypeVar("T")
_Address = ipaddress.IPv4Address | ipaddress.IPv6Address
# Metadata services outside the link-local ranges, by their makers' public documentation [from memory].
_METADATA = {
    ipaddress.ip_address(text) for text in ("fd00:ec2::254", "100.100.100.200", "168.63.129.16", "192.0.0.192")
}
_NAT64 = ipaddress.ip_network("64:ff9b::/96")  # RFC 6052


def resolve(host: str, port: int) -> list[str]:
    """The addresses of a host as this machine finds them; raises OSError."""
    found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
    return list(dict.fromkeys(str(address[4][0]) for address in found))


def addresses_of(host: str, port: int, find: Resolve = resolve) -> list[str]:
    """The addresses under which a host may be asked; raises HostRefused when one may not, OSError without any."""
    try:
        found = find(host, port)
    except UnicodeError as error:  # a name that no resolver takes
        raise OSError(f"{host[:80]} is not the name of a host") from error
    for text in found:
        if not _may_be_asked(ipaddress.ip_address(text.partition("%")[0])):
            raise HostRefused(
                "address-not-asked",
                f"{host[:80]} leads to {text}, an address that only serves this machine's own surroundings. "
                "Bexi never asks such ones.",
            )
    return list(found)


def connected(host: str, port: int, connect: Callable[[str], T], find: Resolve = resolve) -> T:
    """What `connect` gives for the first address of a host that answers; raises OSError when none does."""
    failed = OSError(f"{host[:80]} has no address")
    for address in addresses_of(host, port, find):
        try:
            return connect(address)
        except OSError as error:
            failed = error
    raise failed


def _may_be_asked(address: _Address) -> bool:
    inner = _carried(address)
    if inner is not None:
        return _may_be_asked(inner)
    # ::1 is reserved by its range, and yet this very machine.
    is_odd = address.is_link_local or address.is_multicast or address.is_unspecified
    return not (is_odd or (address.is_reserved and not address.is_loopback) or address in _METADATA)


def is_public(address: str) -> bool:
    """Whether an address is one of the whole internet, and not of this machine or a private network (RFC 6890)."""
    plain = ipaddress.ip_address(address.partition("%")[0])
    return (_carried(plain) or plain).is_global


def _carried(address: _Address) -> ipaddress.IPv4Address | None:
    """The IPv4 address that an IPv6 address stands for, if it does."""
    if isinstance(address, ipaddress.IPv4Address):
        return None
    if address in _NAT64:
        return ipaddress.IPv4Address(int(address) & 0xFFFFFFFF)
    return address.ipv4_mapped or address.sixtofour or (address.teredo[1] if address.teredo else None)
