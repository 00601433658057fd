from unittest import TestCase

from bexi.hosts.ftp_listing import Listed, from_list, from_mlsd

# RFC 3659 §7.7.3 and §7.7.4, examples of what servers answer to MLSD; from memory.
MLSD = b"""Type=cdir;Perm=el;Unique=keVO1+ZF4; test\r
Type=pdir;Perm=e;Unique=keVO1+d?3; ..\r
Type=OS.unix=slink:/foobar;Perm=;Unique=keVO1+4G4; foobar\r
Type=OS.unix=chr-13/29;Perm=;Unique=keVO1+5G4; device\r
Type=file;Perm=r;Unique=keVO1+EG4; writable\r
Type=dir;Perm=cpmel;Unique=keVO1+7G4; promiscuous\r
Type=dir;Perm=;Unique=keVO1+1t2; no-exec\r
Type=file;Size=25730;Modify=19940728095854;Perm=; cap60.pl198.tar.gz\r
"""


class ListingTests(TestCase):
    def test_mlsd_as_the_standard_shows_it(self):
        self.assertEqual(
            list(from_mlsd(MLSD.split(b"\n"))),
            [
                Listed("writable", False),
                Listed("promiscuous", True),
                Listed("no-exec", True),
                Listed("cap60.pl198.tar.gz", False),
            ],
        )

    def test_list_as_unix_servers_write_it(self):
        """Lines as most servers write them [common practice]."""
        lines = (
            b"total 12",
            b"drwxr-xr-x   2 ferry    crew         4096 Nov  3 08:12 pics\r",
            b"-rw-r--r--   1 ferry    crew          512 Jan 14  1999 old page.html\r",
            b"lrwxrwxrwx   1 ferry    crew            7 Jan 14 09:00 www -> ../www",
        )
        self.assertEqual(list(from_list(lines)), [Listed("pics", True), Listed("old page.html", False)])

    def test_what_makes_no_sense_does_no_harm(self):
        lines = (b"", b" ", b"type=file", b"type=file; ", b"size=-5;type=file; a", b"TYPE=file;size=9e9999; b")
        self.assertEqual([one.name for one in from_mlsd(lines)], ["a", "b"])
        (odd,) = from_mlsd([b"type=file; caf\xe9.html"])
        self.assertFalse(odd.name.isprintable())
