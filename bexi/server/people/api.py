"""Signing in, accounts and tokens over the API."""

from datetime import datetime
from typing import Annotated

from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema
from pydantic import StringConstraints

from bexi.server.people import accounts, locking_out, tokens
from bexi.server.people.asking import Needs, Person, from_our_own_page, person_of
from bexi.server.people.models import Token, User
from bexi.server.people.roles import Role
from bexi.server.problems import Conflict, SignInNeeded

router = Router(tags=["people"])
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=accounts.LONGEST_NAME)]
Password = Annotated[str, StringConstraints(min_length=1, max_length=500)]


class SignInBody(Schema):
    name: Name
    password: Password


class MeOut(Schema):
    """Who asks; `has_account` is false for the owner of this machine, who needs none. `may` are roles theirs holds."""

    name: str
    role: Role
    may: list[Role]
    has_account: bool


class NewPasswordIn(Schema):
    old: Password
    new: Password


class AccountOut(Schema):
    id: int
    name: str = Field(alias="username")
    role: Role
    active: bool = Field(alias="is_active")
    last_seen: datetime | None = Field(alias="last_login")


class AccountIn(Schema):
    name: Name
    password: Password
    role: Role = Role.LOOKS


class AccountChangeIn(Schema):
    role: Role
    active: bool = True


class TokenIn(Schema):
    name: Name
    role: Role
    days: Annotated[int, Field(ge=1, le=366)]


class TokenOut(Schema):
    id: int
    name: str
    role: Role
    ends: datetime
    used: datetime | None


class NewTokenOut(TokenOut):
    """`secret` is told this once."""

    secret: str


@router.post("/sign-in", response=MeOut, auth=from_our_own_page)
def sign_in(request: HttpRequest, body: SignInBody) -> MeOut:
    """Sign in; too many wrong passwords shut the account to that address for a while."""
    locking_out.refuse_too_many(request)
    with locking_out.a_turn_to_hash():
        user = authenticate(request, username=body.name, password=body.password)
    if not isinstance(user, User):
        raise SignInNeeded("wrong-password", "The name or the password is wrong.")
    login(request, user)
    return _me(Person(user.username, Role(user.role), user))


@router.get("/me", response=MeOut)
def me(request: HttpRequest) -> MeOut:
    """Who asks."""
    return _me(person_of(request))


@router.post("/sign-out", response={204: None}, auth=Needs(Role.LOOKS))
def sign_out(request: HttpRequest, everywhere: bool = False) -> tuple[int, None]:
    """End this session, or every one of this account; a script has none to end."""
    if everywhere:
        accounts.sign_out_everywhere(_account(request))
    logout(request)
    return 204, None


@router.post("/password", response={204: None}, auth=Needs(Role.LOOKS))
def change_password(request: HttpRequest, body: NewPasswordIn) -> tuple[int, None]:
    """Change one's own password; every other session of the account ends."""
    user = _account(request)
    locking_out.refuse_too_many(request)
    with locking_out.a_turn_to_hash():
        known = authenticate(request, username=user.username, password=body.old)
    if known is None:
        raise Conflict("wrong-password", "The old password is wrong.")
    accounts.set_password(user, body.new)
    update_session_auth_hash(request, user)
    return 204, None


@router.get("/tokens", response=list[TokenOut])
def list_tokens(request: HttpRequest) -> list[Token]:
    """One's own tokens; a token itself is told of none."""
    if request.headers.get("Authorization"):
        raise _no_account()
    user = person_of(request).user
    return list(user.tokens.all()) if user else []


@router.post("/tokens", response={201: NewTokenOut}, auth=Needs(Role.LOOKS))
def make_token(request: HttpRequest, body: TokenIn) -> tuple[int, NewTokenOut]:
    """A token for a script, with a role and an end."""
    token, secret = tokens.make(_account(request), body.name, body.role, body.days)
    return 201, NewTokenOut(**TokenOut.from_orm(token).dict(), secret=secret)


@router.delete("/tokens/{token_id}", response={204: None}, auth=Needs(Role.LOOKS))
def end_token(request: HttpRequest, token_id: int) -> tuple[int, None]:
    """End a token of one's own."""
    get_object_or_404(Token, pk=token_id, user=_account(request)).delete()
    return 204, None


@router.get("/people", response=list[AccountOut], auth=Needs(Role.ADMINISTERS))
def list_people(request: HttpRequest) -> list[User]:
    """All accounts."""
    return list(User.objects.order_by("username"))


@router.post("/people", response={201: AccountOut}, auth=Needs(Role.ADMINISTERS))
def add_person(request: HttpRequest, body: AccountIn) -> tuple[int, User]:
    """Add an account. The first one administers: from then on everybody signs in."""
    if not User.objects.exists() and body.role != Role.ADMINISTERS:
        raise Conflict(
            "last-administrator", "The first account must be an administrator: otherwise nobody could add others."
        )
    return 201, accounts.add(body.name, body.password, body.role)


@router.put("/people/{user_id}", response=AccountOut, auth=Needs(Role.ADMINISTERS))
def change_person(request: HttpRequest, user_id: int, body: AccountChangeIn) -> User:
    """Change what somebody may do, or shut an account."""
    user = get_object_or_404(User, pk=user_id)
    accounts.change(user, body.role, body.active)
    return user


def _me(person: Person) -> MeOut:
    may = [role for role in Role if person.role.holds(role)]
    return MeOut(name=person.name, role=person.role, may=may, has_account=person.user is not None)


def _account(request: HttpRequest) -> User:
    """The account of who asks from a page; raises Conflict for the owner without one, and for scripts."""
    user = person_of(request).user
    if user is None or request.headers.get("Authorization"):
        raise _no_account()
    return user


def _no_account() -> Conflict:
    return Conflict("no-account", "Sign in to do this.")
