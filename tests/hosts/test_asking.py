from unittest import TestCase

from bexi.core.errors import HostRefused
from bexi.hosts.asking import addresses_of, connected


def leading_to(*addresses: str):
    return lambda host, port: list(addresses)


class AskingTests(TestCase):
    """No name is resolved here: the resolver is the test's own."""

    def test_public_private_and_own_addresses_may_be_asked(self):
        for address in (
            "203.0.113.7",
            "10.0.0.1",
            "192.168.1.9",
            "172.16.0.1",
            "127.0.0.1",
            "::1",
            "2001:db8::1",
            "fd12::1",
        ):
            self.assertEqual(addresses_of("ferry.example", 80, leading_to(address)), [address])

    def test_link_local_metadata_and_what_is_no_machine_may_not(self):
        for address in (
            *("169.254.169.254", "169.254.0.1", "fe80::1", "fe80::1%eth0", "::ffff:169.254.169.254"),  # RFC 3927, 4291
            *("64:ff9b::a9fe:a9fe", "2002:a9fe:a9fe::1"),  # the same inside IPv6: RFC 6052, RFC 3056
            *("fd00:ec2::254", "100.100.100.200", "168.63.129.16"),
            *("0.0.0.0", "::", "224.0.0.1", "ff02::1", "255.255.255.255", "240.0.0.1"),
        ):
            with self.assertRaises(HostRefused, msg=address) as caught:
                addresses_of("ferry.example", 80, leading_to("203.0.113.7", address))
            self.assertEqual(caught.exception.code, "address-not-asked")

    def test_the_address_that_was_looked_at_is_the_one_that_is_connected_to(self):
        tried = []

        def connect(address: str) -> str:
            tried.append(address)
            if len(tried) == 1:
                raise OSError("no answer")
            return address

        self.assertEqual(
            connected("ferry.example", 80, connect, leading_to("203.0.113.7", "203.0.113.8")), "203.0.113.8"
        )
        with self.assertRaises(OSError):
            connected("ferry.example", 80, connect, leading_to())

    def test_names_that_no_resolver_takes(self):
        for host in ("a" * 300 + ".example", "a..b", "\ud800"):
            with self.assertRaises((OSError, HostRefused)):
                addresses_of(host, 80)
