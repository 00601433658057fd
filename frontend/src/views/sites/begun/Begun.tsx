import { Alert } from "antd";
import { useState } from "react";
import { Link } from "react-router";

import { useArtwork } from "../../../api/artwork";
import { isAsItCame, useFirstProposal, useTakeFraming } from "../../../api/beginnings";
import type { Draft, Offer, Picture, Rung } from "../../../api/client";
import { useDraft, useRungsOf } from "../../../api/drafts";
import { framingOf, useJudged, useProposals } from "../../../api/judging";
import { useSite } from "../../../api/sites";
import { useOutcome } from "../../../app/telling";
import { HowFar } from "../../../app/HowFar";
import { Loading } from "../../../app/Loading";
import { isAsOffered, isChosen } from "../../../app/offers";
import { TrueSize, useDevicePixelRatio } from "../../../app/TrueSize";
import { kindOf, toneOf } from "../../../app/verdict";
import styles from "./begun.module.css";
import { WaysOn } from "./WaysOn";

const PICTURES: Picture[] = [
  { size: 16, purpose: "tab" },
  { size: 32, purpose: "tab" },
  { size: 180, purpose: "home" },
];
const TIMES = 8;
const OFFERED = 3;
/** Notes on the artwork that no proposal mends: it is blank, or its text cannot be drawn. */
const UNMENDED = ["ink", "live_text"];

type Seen = Pick<Rung, "size" | "png" | "says" | "verdict">;

const seenOf = ({ png, judgement }: Offer["pictures"][number]): Seen => ({ png, ...judgement });

/** A picture that no site has yet: how it would be seen, what else could be made of it, and the ways on. */
export function Begun({ siteId }: { siteId: number }) {
  const site = useSite(siteId);
  const draft = useDraft(siteId);
  const artwork = useArtwork(draft.data?.artwork_id);
  const first = useFirstProposal(draft.data, artwork.data);
  const judged = useJudged(siteId, artwork.data);
  const offers = useProposals(siteId, artwork.data);
  const trying = isAsItCame(draft.data) && !first.isError; // else it can be taken as it is
  const offered = offers.data ?? (judged?.first ? [judged.first] : []);
  const chosen = trying ? offered[0] : offered.find((offer) => isAsOffered(offer, draft.data?.recipe));
  const hasOwn = !trying && !chosen && !offers.isPending; // framed by hand since
  const rungs = useRungsOf(hasOwn ? (draft.data ?? undefined) : undefined, PICTURES);
  const fresh = chosen ? chosen.pictures.map(seenOf) : rungs.data;
  const told = fresh && toldOf(fresh).join(", ");
  useOutcome(
    told && site.data && !trying && !rungs.isPlaceholderData
      ? { key: told, told: `${site.data.name}: ${told}.` }
      : { key: "none", told: "" },
  );
  const failed = first.error ?? offers.error;
  const problem = site.error ?? draft.error ?? artwork.error ?? rungs.error;
  if (site.data && !site.data.is_beginning)
    return (
      <p className={styles.made}>
        {site.data.name} is a site now. <Link to={`/sites/${siteId}/bench`}>Go to its bench</Link>
      </p>
    );
  if (!site.data || !artwork.data || !draft.data || !fresh)
    return problem ? (
      <Alert type="error" showIcon title={problem.message} />
    ) : (
      <Loading what="Making its first icons" />
    );
  return (
    <section className={styles.begun} aria-label={`Started with ${site.data.name}`} aria-busy={trying}>
      <Enlarged name={site.data.name} icon={fresh[1]} />
      <div className={styles.seen}>
        <Places name={site.data.name} icons={fresh} />
        <div className={styles.told}>
          <h2>{site.data.name}</h2>
          <ul className={styles.verdicts} aria-label="How it will be seen">
            {toldOf(fresh).map((line, number) => (
              <li key={line} data-tone={toneOf(fresh[number]?.verdict ?? null)}>
                {line}
              </li>
            ))}
          </ul>
          {artwork.data.notes
            .filter(({ fact }) => UNMENDED.includes(fact))
            .map(({ fact, sentence }) => (
              <Alert key={fact} type="warning" showIcon title={sentence} />
            ))}
          {failed && <Alert type="warning" showIcon title={failed.message} />}
          {chosen?.why && <p className={styles.why}>{chosen.why}.</p>}
          {offers.isPending && (
            <div role="status">
              <p>Trying other ways to use it:</p>
              <HowFar judged={judged} />
            </div>
          )}
        </div>
        {!trying && offers.data && <Offers siteId={siteId} draft={draft.data} offers={offers.data} />}
      </div>
      <WaysOn site={site.data} draft={draft.data} waiting={trying} />
    </section>
  );
}

/** How each size is seen; where none can be judged, for one reason, that alone. */
function toldOf(icons: Seen[]): string[] {
  const [first] = icons;
  const isUnjudged = icons.every(({ verdict, says }) => verdict === null && says === first?.says);
  return first && isUnjudged ? [first.says] : icons.map(({ size, says }) => `${size} px ${says}`);
}

function Enlarged({ name, icon }: { name: string; icon: Seen | undefined }) {
  if (!icon) return null;
  return (
    <figure className={styles.large}>
      <TrueSize
        src={pngOf(icon)}
        size={icon.size}
        times={TIMES}
        alt={`${name} at ${icon.size} px, ${TIMES} times as large`}
      />
      <figcaption className="reading">
        {icon.size} px, {TIMES} times as large
      </figcaption>
    </figure>
  );
}

/** In tabs and on a home screen, at true size. */
function Places({ name, icons: [small, medium, home] }: { name: string; icons: Seen[] }) {
  const dense = useDevicePixelRatio() >= 1.5;
  const tab = dense ? medium : small;
  if (!tab || !home) return null;
  return (
    <div className={styles.places}>
      {(["light", "dark"] as const).map((ground) => (
        <span key={ground} className={styles.tab} data-ground={ground}>
          <TrueSize src={pngOf(tab)} size={tab.size} alt={`In a ${ground} tab`} />
          <span>{name}</span>
        </span>
      ))}
      <span className={styles.home}>
        <span>
          <TrueSize src={pngOf(home)} size={home.size} alt="On a home screen" />
        </span>
        <span>{name}</span>
      </span>
    </div>
  );
}

type OffersProps = { siteId: number; draft: Draft; offers: Offer[] };

/** What else was found; a press takes it. */
function Offers({ siteId, draft, offers }: OffersProps) {
  const take = useTakeFraming(draft);
  const [problem, setProblem] = useState<Error>();
  const choose = async (offer: Offer) => {
    setProblem(undefined);
    try {
      await take.mutateAsync(await framingOf(offer));
    } catch (cause) {
      setProblem(cause as Error);
    }
  };
  return (
    <>
      <div className={styles.offers} role="group" aria-label="Ways to use it">
        {offers.slice(0, OFFERED).map((offer) => (
          <button
            key={offer.kind}
            type="button"
            aria-pressed={isChosen(offer, draft.recipe.framing)}
            disabled={take.isPending}
            onClick={() => void choose(offer)}
          >
            {offer.pictures[1] && (
              <TrueSize src={`data:image/png;base64,${offer.pictures[1].png}`} size={32} alt="" />
            )}
            {kindOf(offer.kind)}
          </button>
        ))}
        {offers.length > OFFERED && (
          <Link to={`/sites/${siteId}/bench/${draft.id}`} state={{ proposals: true }}>
            All {offers.length} ways
          </Link>
        )}
      </div>
      {problem && <Alert type="error" showIcon title={problem.message} />}
    </>
  );
}

const pngOf = ({ png }: Seen) => `data:image/png;base64,${png}`;
