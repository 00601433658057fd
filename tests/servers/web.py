"""Debian's web servers on 127.0.0.1, each with a folder to serve and the lines under test."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tests.ports import free_port_range
from tests.servers.debian import LOOPBACK, running, written

MODULES = Path("/usr/lib/apache2/modules")


@contextmanager
def apache(folder: Path, served: Path) -> Iterator[str]:
    """Apache httpd, whose rules lie in the served folder; gives the address."""
    port = free_port_range(1)
    loaded = "\n".join(
        f"LoadModule {name}_module {MODULES}/mod_{name}.so"
        for name in ("mpm_event", "authz_core", "mime", "headers", "dir")
    )
    config = f"""
        ServerRoot {folder}
        ServerName {LOOPBACK}
        Listen {LOOPBACK}:{port}
        PidFile {folder}/pid
        Mutex file:{folder}
        ErrorLog {folder}/error.log
        {loaded}
        TypesConfig /etc/mime.types
        DocumentRoot {served}
        <Directory {served}>
            AllowOverride FileInfo
            Require all granted
        </Directory>
    """
    with running(["/usr/sbin/apache2", "-D", "FOREGROUND", "-f", str(written(folder / "apache.conf", config))], port):
        yield f"http://{LOOPBACK}:{port}/"


@contextmanager
def nginx(folder: Path, served: Path, lines: str) -> Iterator[str]:
    """nginx with these lines in its server block."""
    port = free_port_range(1)
    with nginx_with(folder, f"server {{ listen {LOOPBACK}:{port}; root {served}; {lines} }}", port):
        yield f"http://{LOOPBACK}:{port}/"


@contextmanager
def nginx_with(folder: Path, server: str, port: int) -> Iterator[None]:
    """nginx with one whole server block."""
    temporary = "\n".join(
        f"{kind}_temp_path {folder}/{kind};" for kind in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    )
    config = f"""
        daemon off;
        user root;
        pid {folder}/pid;
        error_log {folder}/error.log;
        events {{}}
        http {{
            access_log off;
            {temporary}
            {server}
        }}
    """
    with running(["/usr/sbin/nginx", "-p", str(folder), "-c", str(written(folder / "nginx.conf", config))], port):
        yield


@contextmanager
def caddy(folder: Path, served: Path, lines: str) -> Iterator[str]:
    """Caddy with these lines in the site's block."""
    port = free_port_range(1)
    config = f"""
{{
    admin off
    auto_https off
}}
http://{LOOPBACK}:{port} {{
    bind {LOOPBACK}
    root * {served}
    {lines}
    file_server
}}
"""
    command = ["caddy", "run", "--adapter", "caddyfile", "--config", str(written(folder / "Caddyfile", config))]
    with running(command, port):
        yield f"http://{LOOPBACK}:{port}/"
