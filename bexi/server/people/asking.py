"""Who asks, and whether they may: every operation of the API goes through `Needs`.

As long as there is no account, whoever sits at this machine is the owner, and nobody else gets in.
"""

import getpass
import ipaddress
from dataclasses import dataclass

from django.conf import settings
from django.http import HttpRequest
from django.http.request import split_domain_port
from django.middleware.csrf import get_token
from ninja.utils import check_csrf

from bexi.server.people import tokens
from bexi.server.people.models import User
from bexi.server.people.roles import Role
from bexi.server.problems import Conflict, NotAllowed, SignInNeeded
from bexi.server.proxies import was_forwarded


@dataclass(frozen=True)
class Person:
    """Somebody who asks: `name` is what is written down of them; `user` is None for the owner without an account."""

    name: str
    role: Role
    user: User | None = None

    def must(self, role: Role) -> None:
        """Raise NotAllowed unless they may do what a role is for."""
        if not self.role.holds(role):
            raise NotAllowed(
                "role-too-small",
                f"Your role is {self.role.label}; this needs {role.label}. Ask an administrator for it.",
            )


class Needs:
    """Lets an operation be done by who has a role; without one looking needs “looks” and all else “edits”."""

    def __init__(self, role: Role | None = None) -> None:
        self.role = role

    def __call__(self, request: HttpRequest) -> Person:
        """The person who asks; raises SignInNeeded, NotAllowed or Conflict."""
        person = _who(request)
        person.must(self.role or (Role.LOOKS if request.method in ("GET", "HEAD") else Role.EDITS))
        return person


def from_our_own_page(request: HttpRequest) -> bool:
    """Let a request through when it carries the token our own page was given (no other site can read it)."""
    get_token(request)  # so that the page has its cookie even where another server hands it out, in development
    if check_csrf(request, from_our_own_page) is not None:
        raise Conflict("page-outdated", "This page was opened too long ago. Reload it and try again.")
    return True


def person_of(request: HttpRequest) -> Person:
    """The person whom `Needs` let in."""
    return request.auth  # type: ignore[attr-defined, no-any-return]  # put there by Ninja


def is_open(request: HttpRequest) -> bool:
    """Whether no account is needed: there is none, Bexi was never set to be reached from elsewhere, and is not.

    So only a request counts that comes from this machine, asks for this machine, and was forwarded by nobody.
    """
    elsewhere = settings.REACHED_AS or settings.BEHIND_PROXY or was_forwarded(request)
    return not elsewhere and _from_and_for_this_machine(request) and not User.objects.exists()


def _who(request: HttpRequest) -> Person:
    scheme, _, secret = request.headers.get("Authorization", "").partition(" ")
    if scheme.lower() == "bearer":
        return _by_token(secret.strip())
    from_our_own_page(request)
    if request.user.is_authenticated:
        return Person(request.user.username, Role(request.user.role), request.user)
    if is_open(request):
        return Person(owner(), Role.ADMINISTERS)
    raise SignInNeeded("sign-in-needed", "Sign in to continue.")


def _by_token(secret: str) -> Person:
    token = tokens.find(secret)
    if token is None:
        raise SignInNeeded("token-unknown", "This token is unknown or has expired. Make a new one.")
    role, most = Role(token.role), Role(token.user.role)
    return Person(f"{token.user.username} (token {token.name})", role if most.holds(role) else most, token.user)


def _from_and_for_this_machine(request: HttpRequest) -> bool:
    host = split_domain_port(request.get_host())[0].strip("[]")
    try:
        peer = ipaddress.ip_address(request.META.get("REMOTE_ADDR", ""))
        return peer.is_loopback and (host == "localhost" or ipaddress.ip_address(host).is_loopback)
    except ValueError:
        return False


def owner() -> str:
    """The name of whoever runs Bexi on this machine, as far as the system tells it."""
    try:
        return getpass.getuser()
    except (OSError, KeyError):
        return ""
