"""Debian's own servers, run by the tests on 127.0.0.1 with a folder of their own, and the places they make."""

import os
import shutil
import socket
import subprocess
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings

from bexi.hosts.place import Place
from tests.ports import free_port_range

LOOPBACK = "127.0.0.1"
USER, PASSWORD = "harbour", "tide-and-time"
VSFTPD = settings.REPOSITORY / ".stamps/vsftpd/usr/sbin/vsftpd"


@contextmanager
def sshd(folder: Path, served: Path) -> Iterator[tuple[Place, str]]:
    """OpenSSH, entered by key as the user who runs the tests; gives the place and the private key."""
    port = free_port_range(1)
    for name in ("host", "user"):
        subprocess.run(["ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-f", folder / name], check=True)
    config = f"""
        ListenAddress {LOOPBACK}
        Port {port}
        HostKey {folder}/host
        AuthorizedKeysFile {folder}/user.pub
        PidFile none
        UsePAM no
        StrictModes no
        PermitRootLogin prohibit-password
        Subsystem sftp internal-sftp
    """
    if os.geteuid() == 0:
        Path("/run/sshd").mkdir(exist_ok=True)  # OpenSSH insists on it
    with running(["/usr/sbin/sshd", "-D", "-e", "-f", written(folder / "sshd.conf", config)], port):
        user = os.environ.get("USER") or subprocess.run(["id", "-un"], capture_output=True, text=True).stdout.strip()
        yield Place.parse(f"sftp://{user}@{LOOPBACK}:{port}{served}"), (folder / "user").read_text()


@contextmanager
def proftpd(folder: Path, served: Path, protocols: str = "TLSv1.2 TLSv1.3") -> Iterator[tuple[Place, Place]]:
    """ProFTPD as it comes, which asks that data connections reuse the session; gives its places by FTP and FTPS.

    The account begins in the folder above `served`.
    """
    port = free_port_range(20)
    certificate = fresh_certificate(folder)
    hashed = subprocess.run(["openssl", "passwd", "-6", PASSWORD], capture_output=True, text=True, check=True).stdout
    account = f"{USER}:{hashed.strip()}:{os.geteuid()}:{os.getegid()}::{served.parent}:/bin/sh\n"
    passwords = written(folder / "passwords", account)
    passwords.chmod(0o600)
    config = f"""
        LoadModule mod_tls.c
        ServerType standalone
        DefaultServer on
        DefaultAddress {LOOPBACK}
        SocketBindTight on
        Port {port}
        PassivePorts {port + 1} {port + 19}
        PidFile {folder}/pid
        ScoreboardFile {folder}/scoreboard
        DelayEngine off
        UseReverseDNS off
        RequireValidShell off
        RootLogin on
        AuthOrder mod_auth_file.c
        AuthUserFile {passwords}
        AllowOverwrite on
        TLSEngine on
        TLSProtocol {protocols}
        TLSRSACertificateFile {certificate}
        TLSRSACertificateKeyFile {certificate}
        TLSRequired off
        TLSLog {folder}/tls.log
    """
    command = ["/usr/sbin/proftpd", "--nodaemon", "--config", written(folder / "proftpd.conf", config)]
    with running(command, port):
        address = f"{USER}@{LOOPBACK}:{port}{served}"
        yield Place.parse(f"ftp://{address}"), Place.parse(f"ftps://{address}")


@contextmanager
def vsftpd(folder: Path, served: Path) -> Iterator[Place]:
    """vsftpd, which asks for the reuse, too; its anonymous account may write. Gives its place by FTPS."""
    port = free_port_range(1)
    for path in (served, *served.rglob("*")):
        shutil.chown(path, "daemon")
    served.parent.chmod(0o755)
    certificate = fresh_certificate(folder)
    config = f"""
        listen=YES
        listen_address={LOOPBACK}
        listen_port={port}
        background=NO
        anonymous_enable=YES
        local_enable=NO
        anon_root={served.parent}
        ftp_username=daemon
        nopriv_user=nobody
        secure_chroot_dir={folder}
        write_enable=YES
        anon_upload_enable=YES
        anon_mkdir_write_enable=YES
        anon_other_write_enable=YES
        anon_umask=022
        anon_world_readable_only=NO
        seccomp_sandbox=NO
        ssl_enable=YES
        allow_anon_ssl=YES
        force_anon_logins_ssl=YES
        force_anon_data_ssl=YES
        require_ssl_reuse=YES
        rsa_cert_file={certificate}
        rsa_private_key_file={certificate}
    """
    told = written(folder / "vsftpd.conf", "\n".join(line.strip() for line in config.splitlines()))
    with running([VSFTPD, told], port):
        yield Place.parse(f"ftps://anonymous@{LOOPBACK}:{port}/{served.name}")


def written(file: Path, text: str) -> Path:
    file.write_text(text)
    return file


def fresh_certificate(folder: Path) -> Path:
    """A fresh certificate with its key, in one file."""
    file = folder / "certificate.pem"
    made = [
        "-x509",
        "-newkey",
        "rsa:2048",
        "-nodes",
        "-subj",
        "/CN=harbour.example",
        "-keyout",
        file,
        "-out",
        folder / "c",
    ]
    subprocess.run(["openssl", "req", *made], check=True, capture_output=True)
    file.write_text(file.read_text() + (folder / "c").read_text())
    file.chmod(0o600)
    return file


@contextmanager
def running(command: list[str | Path], port: int, environment: Mapping[str, str] | None = None) -> Iterator[None]:
    process = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE)
    try:
        for _ in range(100):
            if process.poll() is not None:
                raise RuntimeError(f"{command[0]} ended: {process.stderr.read().decode()}")
            with socket.socket() as probe:
                if probe.connect_ex((LOOPBACK, port)) == 0:
                    break
            time.sleep(0.05)
        yield
    finally:
        process.terminate()
        process.communicate()
