"""The account by which the stand-in's folders are reached, and the server's keys."""

import datetime
from dataclasses import dataclass
from pathlib import Path

import paramiko
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

USER = "ferry"
PASSWORD = "slack-water"


@dataclass(frozen=True)
class ServerKeys:
    """Files with the SFTP host key and with the TLS certificate and its key."""

    host_key: Path
    certificate: Path

    def fingerprints(self) -> dict[str, str]:
        """What a provider publishes, by protocol: SHA-256, in base64 as `ssh-keygen -l` prints it, or hexadecimal."""
        certificate = x509.load_pem_x509_certificate(self.certificate.read_bytes())
        return {
            "SFTP": paramiko.ECDSAKey.from_private_key_file(str(self.host_key)).fingerprint,
            "FTP over TLS": f"SHA256:{certificate.fingerprint(hashes.SHA256()).hex()}",
        }


def server_keys(folder: Path) -> ServerKeys:
    """The keys in a folder, made when missing, so that a server shows the same ones each time."""
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    keys = ServerKeys(folder / "host-key", folder / "certificate.pem")
    if not keys.host_key.exists():
        paramiko.ECDSAKey.generate().write_private_key_file(str(keys.host_key))
    if not keys.certificate.exists():
        keys.certificate.write_bytes(_self_signed())
    return keys


def _self_signed() -> bytes:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "stand-in.example")])
    now = datetime.datetime.now(datetime.UTC)
    certificate = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - datetime.timedelta(days=1))
        .not_valid_after(now + datetime.timedelta(days=3650))
        .sign(key, hashes.SHA256())
    )
    return certificate.public_bytes(serialization.Encoding.PEM) + key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )
