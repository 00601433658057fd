"""The people tables."""

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone
from django.utils.crypto import salted_hmac

from bexi.server.people.roles import Role


class User(AbstractUser):
    """An account. `sign_outs` counts how often its person signed out everywhere, which ends every session before."""

    role = models.CharField(max_length=12, choices=Role.choices, default=Role.LOOKS)
    sign_outs = models.PositiveIntegerField(default=0)

    def _get_session_auth_hash(self, secret: str | None = None) -> str:
        """What each session is bound to: the password, as in Django, and the number of sign-outs."""
        value = f"{self.password}:{self.sign_outs}"
        return salted_hmac("bexi.server.people.User", value, secret=secret, algorithm="sha256").hexdigest()


class Token(models.Model):
    """Lets a script in for one account until it ends. Of the token itself only the SHA-256 is kept.

    `role` is what it may do at most; never more than the account itself.
    """

    user = models.ForeignKey(User, models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=60)
    role = models.CharField(max_length=12, choices=Role.choices)
    sha256 = models.CharField(max_length=64, unique=True)
    ends = models.DateTimeField()
    created = models.DateTimeField(auto_now_add=True)
    used = models.DateTimeField(null=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return f"{self.name} of {self.user}"

    @property
    def is_over(self) -> bool:
        """Whether its end has come."""
        return self.ends <= timezone.now()
