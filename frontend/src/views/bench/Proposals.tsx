import { Alert, Button } from "antd";
import { useState } from "react";

import type { Artwork, Framing, Offer, Recipe, Site } from "../../api/client";
import { framingOf, useJudged, useProposals } from "../../api/judging";
import { HowFar } from "../../app/HowFar";
import { isChosen } from "../../app/offers";
import { TrueSize } from "../../app/TrueSize";
import styles from "./proposals.module.css";
import { kindOf, toneOf } from "../../app/verdict";

type Props = {
  site: Site;
  artwork: Artwork;
  framing: Framing;
  change: (update: (recipe: Recipe) => Recipe) => void;
  close: () => void;
};

/** What may be made of a piece, each judged at three sizes; the best is taken already, another is one click. */
export function Proposals({ site, artwork, framing, change, close }: Props) {
  const proposals = useProposals(site.id, artwork);
  const judged = useJudged(site.id, artwork);
  const [problem, setProblem] = useState<Error>();
  const take = async (offer: Offer) => {
    try {
      const taken = await framingOf(offer);
      change(() => ({ framing: taken, own: [] }));
    } catch (cause) {
      setProblem(cause as Error);
    }
  };
  const offers = proposals.data ?? (judged?.first ? [judged.first] : []);
  const shown = problem ?? proposals.error;
  return (
    <section className={styles.proposals} aria-label={`Proposals for ${artwork.title}`} tabIndex={0}>
      <div className={styles.head}>
        <h2>Ways to use {artwork.title}</h2>
        <Button type="primary" onClick={close}>
          Continue with the chosen one
        </Button>
      </div>
      {shown && <Alert type="error" showIcon title={shown.message} />}
      {proposals.isPending && (
        <div role="status">
          Trying different icons
          <HowFar judged={judged} />
        </div>
      )}
      <ul className={styles.list}>
        {offers.map((offer, number) => (
          <li key={offer.kind}>
            <Card
              offer={offer}
              best={number === 0}
              chosen={isChosen(offer, framing)}
              take={() => void take(offer)}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

type CardProps = { offer: Offer; best: boolean; chosen: boolean; take: () => void };

function Card({ offer, best, chosen, take }: CardProps) {
  const [small, medium, home] = offer.pictures;
  return (
    <button type="button" className={styles.card} aria-pressed={chosen} onClick={take}>
      <span className={styles.title}>
        <strong>{kindOf(offer.kind)}</strong>
        <span>{chosen ? "chosen" : best ? "best" : ""}</span>
      </span>
      {home && (
        <TrueSize
          src={`data:image/png;base64,${home.png}`}
          size={180}
          alt={`${kindOf(offer.kind)} on a home screen`}
        />
      )}
      <span className={styles.tabs}>
        {(["light", "dark"] as const).map((ground) => (
          <span key={ground} className={styles.tab} data-ground={ground}>
            {[small, medium].map(
              (picture) =>
                picture && (
                  <TrueSize
                    key={picture.judgement.size}
                    src={`data:image/png;base64,${picture.png}`}
                    size={picture.judgement.size}
                    alt={`${kindOf(offer.kind)} at ${picture.judgement.size} px on ${ground}`}
                  />
                ),
            )}
          </span>
        ))}
      </span>
      <span className={styles.why}>{offer.why}</span>
      <span className={styles.verdicts}>
        {offer.pictures.map(({ judgement }) => (
          <span key={judgement.size} className="reading" data-tone={toneOf(judgement.verdict)}>
            {judgement.size} px {judgement.says}
          </span>
        ))}
      </span>
    </button>
  );
}
