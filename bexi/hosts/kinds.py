"""The registry of the ways to reach a place: each is one entry here and one file that speaks its protocol."""

from enum import StrEnum


class PlaceKind(StrEnum):
    """The scheme of its addresses, a label, what it is, its port, whether what travels is hidden, and how it is opened.

    Port 0 is that of a kind that needs no network; the others are as registered with IANA (FTPS is RFC 4217's, by AUTH
    TLS). `opener` names what makes a storage of a place and its secret, and is imported when one is opened, for the
    libraries behind them take their time.
    """

    FOLDER = "folder", "This machine", "A folder on this machine", 0, True, "bexi.hosts.folder:FolderStorage.at"
    SFTP = "sftp", "SFTP", "An account reached by SFTP", 22, True, "bexi.hosts.sftp:SftpStorage"
    FTPS = "ftps", "FTPS", "An account reached by FTP over TLS", 21, True, "bexi.hosts.ftp:FtpStorage"
    FTP = (
        *("ftp", "FTP", "An account reached by FTP, which encrypts nothing, not even the password"),
        *(21, False, "bexi.hosts.ftp:FtpStorage"),
    )

    label: str
    told: str
    port: int
    hidden: bool
    opener: str

    def __new__(cls, scheme: str, label: str, told: str, port: int, hidden: bool, opener: str) -> "PlaceKind":
        """One way, whose value is the scheme."""
        kind = str.__new__(cls, scheme)
        kind._value_ = scheme
        kind.label, kind.told, kind.port, kind.hidden, kind.opener = label, told, port, hidden, opener
        return kind
