"""Tokens by which scripts get in: shown once, kept as a hash."""

import hashlib
import secrets
from datetime import timedelta

from django.utils import timezone

from bexi.server.people.models import Token, User
from bexi.server.people.roles import Role
from bexi.server.problems import NotAllowed

_PREFIX = "bexi_"
_RANDOM_BYTES = 32
_NOTED_EVERY = timedelta(minutes=1)


def make(user: User, name: str, role: Role, days: int) -> tuple[Token, str]:
    """A new token and its secret, which is told only now; raises NotAllowed for more than the account may do."""
    if not Role(user.role).holds(role):
        raise NotAllowed("role-too-small", f"A token of yours can do at most what you can: “{user.role}”.")
    secret = _PREFIX + secrets.token_urlsafe(_RANDOM_BYTES)
    ends = timezone.now() + timedelta(days=days)
    return Token.objects.create(user=user, name=name, role=role, sha256=_hash(secret), ends=ends), secret


def find(secret: str) -> Token | None:
    """The token with this secret if it still lets somebody in; its use is noted, to the minute."""
    token = Token.objects.select_related("user").filter(sha256=_hash(secret), user__is_active=True).first()
    if token is None or token.is_over:
        return None
    now = timezone.now()
    if token.used is None or now - token.used > _NOTED_EVERY:
        Token.objects.filter(pk=token.pk).update(used=now)
    return token


def _hash(secret: str) -> str:
    """Without salt or slowness: 256 random bits cannot be guessed."""
    return hashlib.sha256(secret.encode()).hexdigest()
