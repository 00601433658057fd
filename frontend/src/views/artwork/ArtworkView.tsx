import { Empty } from "antd";
import { useState } from "react";

import { useArtworks, useDraft } from "../../api/queries";
import { Loading } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useSite } from "../../app/SiteFrame";
import { ArtworkPicture } from "./ArtworkPicture";
import styles from "./artwork.module.css";
import { Intake } from "./Intake";
import { Piece } from "./Piece";

/** Everything one may use, and what was measured of the chosen piece. */
export function ArtworkView() {
  const site = useSite();
  const artworks = useArtworks();
  const draft = useDraft(site.id);
  const [chosenId, setChosenId] = useState<number>();
  if (artworks.isPending || draft.isPending) return <Loading what="Reading the artwork" />;
  const problem = artworks.error ?? draft.error;
  if (problem) return <ProblemNotice problem={problem} retry={() => void artworks.refetch()} />;
  const pieces = artworks.data ?? [];
  const chosen =
    pieces.find((piece) => piece.id === (chosenId ?? draft.data?.artwork_id)) ?? pieces.find(() => true);
  return (
    <main className={styles.view}>
      <section className={styles.shelf} aria-label="Artwork at hand">
        <Intake taken={(piece) => setChosenId(piece.id)} />
        {pieces.length === 0 && <Empty description="No artwork yet. Drop a logo or picture above." />}
        <div className={styles.pieces}>
          {pieces.map((piece) => (
            <button
              key={piece.id}
              type="button"
              className={styles.piece}
              aria-pressed={piece.id === chosen?.id}
              onClick={() => setChosenId(piece.id)}
            >
              <ArtworkPicture artwork={piece} longest={160} className={styles.thumbnail ?? ""} />
              <strong>{piece.title}</strong>
              <span className="reading">
                {piece.facts.format} {piece.facts.width} × {piece.facts.height}
              </span>
            </button>
          ))}
        </div>
      </section>
      {chosen && <Piece key={chosen.id} artwork={chosen} site={site} draft={draft.data ?? null} />}
    </main>
  );
}
