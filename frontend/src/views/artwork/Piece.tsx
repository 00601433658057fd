import { useQueryClient } from "@tanstack/react-query";
import { App, Button } from "antd";
import { useNavigate } from "react-router";

import { answer, type Artwork, client, type Draft, type Site } from "../../api/client";
import { aspect, bytes } from "../../app/units";
import { ArtworkPicture } from "./ArtworkPicture";
import styles from "./artwork.module.css";

type Props = { artwork: Artwork; site: Site; draft: Draft | null };

/** One piece with its facts, and the step to the bench. */
export function Piece({ artwork, site, draft }: Props) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const onBench = draft?.artwork_id === artwork.id;
  const putOnBench = async () => {
    try {
      const body = {
        artwork_id: artwork.id,
        recipe: {
          frame: artwork.framings.whole,
          ground: draft?.recipe.ground ?? "clear",
          home_ground: draft?.recipe.home_ground ?? "#ffffff",
        },
        revision: draft?.revision ?? 0,
      };
      const saved = await answer(
        client.PUT("/api/sites/{site_id}/draft", { params: { path: { site_id: site.id } }, body }),
      );
      queries.setQueryData(["draft", site.id], saved);
      void queries.invalidateQueries({ queryKey: ["sites"] });
      void navigate(`/sites/${site.id}/bench`);
    } catch (problem) {
      void message.error((problem as Error).message, 8);
    }
  };
  return (
    <section className={styles.detail} aria-label={`Facts of ${artwork.title}`}>
      <ArtworkPicture artwork={artwork} longest={800} className={styles.large ?? ""} />
      <h1>{artwork.title}</h1>
      <span className="reading">{artwork.file_name}</span>
      {onBench ? (
        <Button className="main-action" onClick={() => void navigate(`/sites/${site.id}/bench`)}>
          Go on at the bench
        </Button>
      ) : (
        <Button className="main-action" onClick={() => void putOnBench()}>
          Put it on the bench
        </Button>
      )}
      <Facts artwork={artwork} />
      {artwork.facts.notes.length > 0 && (
        <ul className={styles.notes}>
          {artwork.facts.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Facts({ artwork: { facts } }: { artwork: Artwork }) {
  const rows: [string, string][] = [
    ["Format", `${facts.format}, ${bytes(facts.file_bytes)}`],
    ["Made of", facts.vector ? "shapes" : `${facts.width} × ${facts.height} px`],
    ["Shape", facts.width === facts.height ? "square" : `${aspect(facts.width, facts.height)}, not square`],
    ["Ground", facts.ground_colour ? `${facts.ground}, ${facts.ground_colour}` : facts.ground],
    ["Sharp up to", facts.sharp_up_to === null ? "any size" : `${facts.sharp_up_to} px`],
    ["Ink covers", `${(facts.ink_share * 100).toFixed(1)} %`],
  ];
  if (facts.margins) {
    const { left, top, right, bottom } = facts.margins;
    rows.push(["Margins", `← ${left}  ↑ ${top}  → ${right}  ↓ ${bottom} px`]);
  }
  if (facts.profile) rows.push(["Colour profile", facts.profile]);
  return (
    <dl className={styles.facts}>
      {rows.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd className="reading">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
