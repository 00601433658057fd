"""Adding accounts and changing them."""

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import models, transaction

from bexi.core.errors import Refusal
from bexi.server.people.models import User
from bexi.server.people.roles import Role

LONGEST_NAME = 60
LAST_ADMINISTRATOR = "Bexi needs an administrator. Give that role to somebody else first."


class AccountRefused(Refusal):
    """An account cannot be so."""


def add(name: str, password: str, role: Role) -> User:
    """A new account; raises AccountRefused with the reason."""
    user = User(username=name, role=role)
    if len(name) > LONGEST_NAME:
        raise AccountRefused("name-refused", f"A name has at most {LONGEST_NAME} characters.")
    try:
        user.clean_fields(exclude=["password"])
        user.validate_unique()
    except ValidationError as error:
        raise AccountRefused("name-refused", _sentence(error)) from error
    set_password(user, password)
    return user


def set_password(user: User, password: str) -> None:
    """Give an account a password, which ends its sessions; raises AccountRefused for one that is easily guessed."""
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise AccountRefused("password-refused", _sentence(error)) from error
    user.set_password(password)
    user.save()


def change(user: User, role: Role, active: bool) -> None:
    """Change what somebody may do, or shut an account; raises AccountRefused when nobody would administer Bexi."""
    with transaction.atomic():
        user.role, user.is_active = role, active
        user.save(update_fields=["role", "is_active"])
        if not administrators().exists():
            raise AccountRefused("last-administrator", LAST_ADMINISTRATOR)


def sign_out_everywhere(user: User) -> None:
    """End every session of an account."""
    user.sign_outs += 1
    user.save(update_fields=["sign_outs"])


def administrators() -> models.QuerySet[User]:
    """The accounts that can let others in."""
    return User.objects.filter(role=Role.ADMINISTERS, is_active=True)


def _sentence(error: ValidationError) -> str:
    return " ".join(error.messages)
