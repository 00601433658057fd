"""Sites over the API."""

from datetime import datetime
from typing import Annotated, Any
from urllib.parse import urlsplit

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Field, File, Query, Router, Schema
from ninja.files import UploadedFile
from pydantic import AfterValidator, StringConstraints, ValidationError

from bexi.core.errors import HostRefused
from bexi.core.livesite.served import joined
from bexi.hosts.kinds import PlaceKind
from bexi.hosts.place import Place
from bexi.server.people.asking import Needs, person_of
from bexi.server.people.roles import Role
from bexi.server.problems import Conflict
from bexi.server.sites import listing
from bexi.server.sites.adding import RequestKey, add, added_by
from bexi.server.sites.allowed_folders import Listing, look_into, refuse_folder
from bexi.server.sites.deeds import note
from bexi.server.sites.finding import found
from bexi.server.sites.models import DeedKind, Site, WithoutServer, account_changed
from bexi.server.sites.status import SiteState, latest, state_of, with_latest
from bexi.web.typed import with_https, with_scheme

router = Router(tags=["sites"])
_MOST_TOLD = 8
_UNDER_WAY = ("waiting", "started", "stuck")


def web_address(text: str) -> str:
    """An address that can be visited, or nothing; raises ValueError."""
    if text and (joined(text, "") != text or "@" in urlsplit(text).netloc):
        raise ValueError("this is not an address that visitors can type; write it like merrowmouth.example")
    return text


def _typed_address(text: str) -> str:
    """The same, also without its scheme."""
    web_address(text if "://" in text or not text else f"https://{text}")
    return text


def _place(text: str) -> str:
    try:
        place = Place.parse(text) if text else None
        if place:
            refuse_folder(place)
        return str(place) if place else ""
    except HostRefused as refusal:
        raise ValueError(refusal.sentence) from refusal


TypedAddress = Annotated[str, StringConstraints(strip_whitespace=True, max_length=290), AfterValidator(_typed_address)]
Label = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40, pattern="^[^,]*$")]


class SiteIn(Schema):
    """Without `labels` or `without_server` they stay as they are; with a place, Bexi reaches a server."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    address: TypedAddress = ""
    place: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500), AfterValidator(_place)] = ""
    labels: Annotated[list[Label], Field(max_length=20)] | None = None
    without_server: WithoutServer | None = None


class SeenIconOut(Schema):
    """The icon that most visitors' tabs showed when it was looked at; `sha256` is empty for none."""

    check_id: int
    sha256: str
    at: datetime

    @classmethod
    def of(cls, check: Any) -> "SeenIconOut":
        """The icon of a site's latest check."""
        return cls(check_id=check.pk, sha256=check.icon, at=check.created)


class SiteOut(Schema):
    """A site; `news` are sentences on what got worse between its two latest checks."""

    id: int
    name: str
    address: str
    place: str
    place_kind: PlaceKind | None
    without_server: WithoutServer
    is_beginning: bool
    state: SiteState
    has_build: bool
    installed_build_id: int | None
    seen: SeenIconOut | None
    news: list[str]
    labels: list[str]

    @classmethod
    def of(cls, site: Site) -> "SiteOut":
        """A site as the API tells it."""
        install, check = latest(site, "standing_install"), latest(site, "latest_check")
        return cls(
            id=site.pk,
            name=site.name,
            address=site.address,
            place=site.place,
            place_kind=Place.parse(site.place).kind if site.place else None,
            without_server=WithoutServer(site.without_server),
            is_beginning=site.is_beginning,
            state=state_of(site),
            has_build=latest(site, "latest_build") is not None,
            installed_build_id=install.build_id if install else None,
            seen=SeenIconOut.of(check) if check else None,
            news=check.news if check else [],
            labels=site.labels,
        )


class PlaceKindOut(Schema):
    """A way to reach a place: `scheme` begins its addresses; `port` 0 needs no network, so no account."""

    scheme: PlaceKind
    label: str
    told: str
    port: int

    @classmethod
    def of(cls, kind: PlaceKind) -> "PlaceKindOut":
        """A kind as the API tells it."""
        return cls(scheme=kind, label=kind.label, told=kind.told, port=kind.port)


class FolderOut(Schema):
    path: str
    parent: str | None
    folders: list[str]


class RemovedOut(Schema):
    id: int
    name: str
    address: str
    removed: datetime


class ImportedOut(Schema):
    """How many sites were added; those of the same name and address were here already."""

    added: int
    here_already: int


def _values(body: SiteIn) -> dict[str, Any]:
    told: dict[str, Any] = {**body.dict(), "address": with_scheme(body.address)}
    if body.place:
        told["without_server"] = ""
    return {name: value for name, value in told.items() if value is not None}


def _is_same_account(before: str, after: str) -> bool:
    return bool(before and after) and Place.parse(before).is_same_account(Place.parse(after))


@router.get("/sites", response=list[SiteOut])
def list_sites(
    request: HttpRequest,
    search: Annotated[str, Query(max_length=200)] = "",
    most: Annotated[int | None, Query(ge=1, le=1_000_000)] = None,
) -> list[SiteOut]:
    """The sites, all of them or the first `most`; with `search` those with all of its words."""
    sites = Site.named.all() if not search else Site.objects.filter(pk__in=found(search, most))
    return [SiteOut.of(site) for site in with_latest(sites[:most])]


@router.post("/sites", response={201: SiteOut})
def add_site(request: HttpRequest, body: SiteIn, key: RequestKey = None) -> tuple[int, SiteOut]:
    """Add a site; its place is said by who installs. Sent again with the same key, it adds no second one."""
    known = added_by(key)
    if known:
        return 201, SiteOut.of(known)
    person = person_of(request)
    if body.place:
        person.must(Role.INSTALLS)
    values = _values(body)
    with transaction.atomic():
        site = add(key, **values)
        if site.place:
            note(site, person.name, DeedKind.PLACED, site.place)
    return 201, SiteOut.of(site)


@router.get("/sites.csv", response=None)
def export_sites(request: HttpRequest) -> HttpResponse:
    """All sites as CSV."""
    return HttpResponse(
        listing.as_csv(Site.named.all()),
        content_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="sites.csv"'},
    )


@router.post("/sites.csv", response={201: ImportedOut})
def import_sites(request: HttpRequest, file: File[UploadedFile]) -> tuple[int, ImportedOut]:
    """Add the sites of a list, all of them or, when a line is wrong, none."""
    person, rows = person_of(request), listing.read_csv(file.read())
    if any(row.place for row in rows):
        person.must(Role.INSTALLS)
    bodies = _read_rows(rows)
    known = set(Site.named.values_list("name", "address"))
    fresh = {(body["name"], body["address"]): body for body in bodies}
    added = [body for key, body in fresh.items() if key not in known]
    with transaction.atomic():
        for body in added:
            site = Site.objects.create(**body)
            if site.place:
                note(site, person.name, DeedKind.PLACED, site.place)
    return 201, ImportedOut(added=len(added), here_already=len(bodies) - len(added))


def _read_rows(rows: list[listing.ListedSite]) -> list[dict[str, Any]]:
    """What the rows say, checked as if each was entered; raises ListRefused with every line that is wrong."""
    read, wrong = [], []
    for row in rows:
        try:
            site = SiteIn(name=row.name, address=row.address, place=row.place, labels=row.labels)
        except ValidationError as error:
            first = error.errors()[0]
            wrong.append(f"line {row.line}, {first['loc'][0]}: {first['msg'].removeprefix('Value error, ')}")
        else:  # hundreds of addresses are not tried one by one
            told = site.dict(exclude_none=True)
            read.append(told | {"address": told["address"] and with_https(told["address"])})
    if wrong:
        told_of = "; ".join(wrong[:_MOST_TOLD]) + (f"; and {len(wrong) - _MOST_TOLD} more" * (len(wrong) > _MOST_TOLD))
        raise listing.ListRefused("lines-wrong", f"Nothing was added. Fix these first: {told_of}.")
    return read


@router.get("/place-kinds", response=list[PlaceKindOut])
def list_place_kinds(request: HttpRequest) -> list[PlaceKindOut]:
    """The ways in which a site's files can be reached."""
    return [PlaceKindOut.of(kind) for kind in PlaceKind]


@router.get("/folders", response=FolderOut, auth=Needs(Role.INSTALLS))
def list_folders(request: HttpRequest, path: Annotated[str, Query(max_length=4000)] = "") -> Listing:
    """The folders of this machine below one, among which a site's top folder is chosen."""
    return look_into(path)


@router.get("/sites/removed", response=list[RemovedOut])
def list_removed(request: HttpRequest) -> list[Site]:
    """The sites that were removed, the latest first."""
    return list(Site.everything.exclude(removed=None).order_by("-removed"))


@router.get("/sites/{site_id}", response=SiteOut)
def get_site(request: HttpRequest, site_id: int) -> SiteOut:
    """One site."""
    return SiteOut.of(get_object_or_404(with_latest(Site.objects.all()), pk=site_id))


@router.put("/sites/{site_id}", response=SiteOut)
def change_site(request: HttpRequest, site_id: int, body: SiteIn) -> SiteOut:
    """Change a site's name or address; its place is said by who installs."""
    site = get_object_or_404(Site, pk=site_id)
    person, values = person_of(request), _values(body)
    with transaction.atomic():
        if body.place != site.place:
            person.must(Role.INSTALLS)
            note(site, person.name, DeedKind.PLACED, f"{site.place or 'none'} → {body.place or 'none'}")
        if not _is_same_account(site.place, body.place):
            site.trusted = ""  # another server has another key
            account_changed.send(Site, site=site, who=person.name)
        site.is_beginning = False  # it has a name of its own now
        for field, value in values.items():
            setattr(site, field, value)
        site.save()
    return get_site(request, site_id)


@router.delete("/sites/{site_id}", response={204: None})
def remove_site(request: HttpRequest, site_id: int, although_installed: bool = False) -> tuple[int, None]:
    """Remove a site from the list; it can be brought back. Nothing is touched where it lives."""
    site = get_object_or_404(with_latest(Site.objects.all()), pk=site_id)
    install = latest(site, "latest_install")
    if install and install.state in _UNDER_WAY:
        raise Conflict(
            "install-under-way", f"An installation on {site.name} is not finished. Wait for it, or put it back."
        )
    if latest(site, "standing_install") and not although_installed:
        raise Conflict(
            "still-installed",
            f"A set of {site.name} is installed; its icons stay there. Undo the installation first if they should not.",
        )
    site.remove()
    note(site, person_of(request).name, DeedKind.REMOVED)
    return 204, None


@router.post("/sites/{site_id}/restore", response=SiteOut)
def restore_site(request: HttpRequest, site_id: int) -> SiteOut:
    """Bring a removed site back."""
    site = get_object_or_404(Site.everything, pk=site_id)
    site.restore()
    note(site, person_of(request).name, DeedKind.RESTORED)
    return get_site(request, site_id)
