"""Judging over the API: one icon looked at closely, and proposals for a piece."""

import base64
import itertools
from typing import Annotated, Literal

from django.http import HttpRequest, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Schema
from pydantic import Field

from bexi.core.formats import png
from bexi.core.formats.sizes import LARGEST_ICON
from bexi.core.framing.cut import Cut
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.judging.marks import Marks, Spot
from bexi.core.judging.readings import BOUNDS, Judgement, Readings, Verdict, amount, noun
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.server.artwork.drawings import LettersBody
from bexi.server.artwork.models import Artwork
from bexi.server.drafts import judging
from bexi.server.drafts.api import DraftOut, draft_out
from bexi.server.drafts.judging import Close, Offer, Step
from bexi.server.hanging_up import has_hung_up
from bexi.server.people.asking import Needs
from bexi.server.people.roles import Role
from bexi.server.sites.models import Site

router = Router(tags=["judging"])


class ReadingOut(Schema):
    """One reading, its word and number, the bounds below which it is lost and below which it is not well."""

    name: str
    noun: str
    amount: str
    value: float
    lost: float
    well: float
    verdict: Verdict


class JudgementOut(Schema):
    """`verdict` is null where too little could be measured; `says` is the word with the worst number."""

    size: int
    verdict: Verdict | None
    because: str | None
    says: str
    notes: list[str]
    readings: list[ReadingOut]
    contrast: dict[str, float]
    fit: float | None

    @classmethod
    def of(cls, judgement: Judgement) -> "JudgementOut":
        """A judgement as the API tells it."""
        return cls(
            size=judgement.size,
            verdict=judgement.verdict,
            because=judgement.because,
            says=judgement.says,
            notes=list(judgement.readings.notes()),
            readings=_readings(judgement.readings),
            contrast=dict(judgement.readings.contrast),
            fit=judgement.readings.fit,
        )


def _readings(readings: Readings) -> list[ReadingOut]:
    return [
        ReadingOut(
            name=name,
            noun=noun(name),
            amount=amount(name, value),
            value=value,
            lost=BOUNDS[name].lost,
            well=BOUNDS[name].well,
            verdict=Verdict.of(readings.score(name, value)),
        )
        for name, value in readings.bounded()
    ]


class SpotOut(Schema):
    """A point in the square, 0 to 1 across and down, and what was measured there in px of the icon."""

    x: float
    y: float
    px: float


class LineOut(Schema):
    """A line of letters: its box, 0 to 1 in the square."""

    left: float
    top: float
    right: float
    bottom: float


class MarksOut(Schema):
    """Where strokes and gaps are too narrow, lines of letters, and where the outline vanishes, by ground."""

    strokes: list[SpotOut]
    gaps: list[SpotOut]
    lettering: list[LineOut]
    vanishing: dict[str, list[SpotOut]]

    @classmethod
    def of(cls, marks: Marks) -> "MarksOut":
        """Marks as the API tells them."""
        lines = [LineOut(left=one.left, top=one.top, right=one.right, bottom=one.bottom) for one in marks.lettering]
        vanishing = {name: _spots(spots) for name, spots in marks.vanishing.items()}
        return cls(strokes=_spots(marks.strokes), gaps=_spots(marks.gaps), lettering=lines, vanishing=vanishing)


def _spots(spots: tuple[Spot, ...]) -> list[SpotOut]:
    return [SpotOut(x=one.x, y=one.y, px=one.px) for one in spots]


class OfferPictureOut(Schema):
    """One picture of an offer at true size; `png` is base64."""

    png: str
    judgement: JudgementOut


class OfferOut(Schema):
    """A framing on offer. `letters` are to be drawn first, if any, and become its artwork."""

    kind: str
    gain: str
    why: str
    framing: Framing
    letters: LettersBody | None
    pictures: list[OfferPictureOut]

    @classmethod
    def of(cls, offer: Offer) -> "OfferOut":
        """An offer as the API tells it."""
        pictures = [
            OfferPictureOut(png=_encoded(pixels), judgement=JudgementOut.of(judgement))
            for pixels, judgement in zip(offer.pictures, offer.judgements, strict=True)
        ]
        return cls(
            kind=offer.kind,
            gain=offer.gain,
            why=offer.why,
            framing=offer.framing,
            letters=offer.letters,
            pictures=pictures,
        )


def _encoded(pixels: Pixels) -> str:
    return base64.b64encode(png.write_quickly(pixels)).decode()


class CloseIn(Schema):
    """`own_ground` is a colour besides the tabs' that the icon is judged on."""

    recipe: Recipe
    size: Annotated[int, Field(ge=1, le=LARGEST_ICON)]
    purpose: Purpose = Purpose.TAB
    own_ground: Colour | None = None
    site_id: int


class CloseOut(Schema):
    judgement: JudgementOut
    marks: MarksOut
    ways_out: list[OfferOut]

    @classmethod
    def of(cls, close: Close) -> "CloseOut":
        """What was seen of one icon as the API tells it."""
        return cls(
            judgement=JudgementOut.of(close.judgement),
            marks=MarksOut.of(close.marks),
            ways_out=[OfferOut.of(way) for way in close.ways_out],
        )


class GroupOut(Schema):
    """A group of parts that belong together, and what a framing needs to show it alone; `ground` is a badge's own."""

    kind: Literal["emblem", "words"]
    frame: Frame
    cut: Cut | None
    ground: Colour | None

    @classmethod
    def of(cls, kind: Literal["emblem", "words"], framing: Framing) -> "GroupOut":
        """A framed group as the API tells it."""
        return cls(kind=kind, frame=framing.frame, cut=framing.cut, ground=framing.ground)


class OnBenchIn(Schema):
    """`revision` is that of the draft that lies on the bench, 0 for none."""

    artwork_id: int
    revision: int = 0


class OnBenchOut(Schema):
    """The draft, and the proposal that it took."""

    draft: DraftOut
    proposal: OfferOut


class StepOut(Schema):
    """How many of how many framings are judged, 0 while that is not known; `first` is told once it is known."""

    done: int
    total: int
    first: OfferOut | None = None

    @classmethod
    def line(cls, step: Step) -> str:
        """A step as a line of JSON."""
        first = OfferOut.of(step.first) if step.first else None
        return cls(done=step.done, total=step.total, first=first).model_dump_json() + "\n"


@router.post("/artwork/{artwork_id}/judgement", response=CloseOut, auth=Needs(Role.LOOKS))
def look_closely(request: HttpRequest, artwork_id: int, body: CloseIn) -> CloseOut:
    """The readings of one icon, where they come from, and what would be better."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    site = get_object_or_404(Site, pk=body.site_id)
    close = judging.look_closely(
        artwork,
        body.recipe,
        body.size,
        body.purpose,
        body.own_ground,
        site,
        nobody_waits=lambda: has_hung_up(request),
    )
    return CloseOut.of(close)


@router.get("/artwork/{artwork_id}/groups", response=list[GroupOut])
def groups(request: HttpRequest, artwork_id: int) -> list[GroupOut]:
    """The parts of an artwork grouped as a person sees them: emblems, the largest first, then the words."""
    framed = judging.framed_groups(get_object_or_404(Artwork, pk=artwork_id))
    return [GroupOut.of(kind, framing) for kind, framing in framed]


@router.get("/sites/{site_id}/proposals/{artwork_id}", response=list[OfferOut])
def proposals(request: HttpRequest, site_id: int, artwork_id: int) -> list[OfferOut]:
    """Whole framings for a piece on this site, the best first."""
    site, artwork = get_object_or_404(Site, pk=site_id), get_object_or_404(Artwork, pk=artwork_id)
    return [OfferOut.of(offer) for offer in judging.proposals_for(artwork, site)]


@router.get("/sites/{site_id}/proposals/{artwork_id}/progress")
def progress(request: HttpRequest, site_id: int, artwork_id: int) -> StreamingHttpResponse:
    """The same in the making, a line of JSON for each step, like {"done": 2, "total": 5}; the best is told early."""
    site, artwork = get_object_or_404(Site, pk=site_id), get_object_or_404(Artwork, pk=artwork_id)
    steps = judging.proposing(artwork, site)
    begun = list(itertools.islice(steps, 1))  # a refusal is told as one, before the answer begins
    lines = map(StepOut.line, itertools.chain(begun, steps))
    return StreamingHttpResponse(lines, content_type="application/x-ndjson")


@router.post("/sites/{site_id}/bench", response=OnBenchOut)
def put_on_bench(request: HttpRequest, site_id: int, body: OnBenchIn) -> OnBenchOut:
    """Put a piece on the bench of a site, framed as is proposed first."""
    site, artwork = get_object_or_404(Site, pk=site_id), get_object_or_404(Artwork, pk=body.artwork_id)
    draft, taken = judging.put_on_bench(site, artwork, body.revision)
    return OnBenchOut(draft=draft_out(draft), proposal=OfferOut.of(taken))
