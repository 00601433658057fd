import { Alert, Button } from "antd";

import { useState } from "react";

import { useChangeTreatment } from "../../api/artwork";
import type { Artwork } from "../../api/client";
import { ArtworkPicture } from "../artwork/ArtworkPicture";
import styles from "./controls.module.css";

const USUAL_TOLERANCE = 0.08;

/** Clear changes nothing within a picture whose ground is solid: offers to lift that, with the picture before and after.
 * Nothing is offered where a drawing has no shape that is only its background. */
export function LiftGround({ artwork }: { artwork: Artwork }) {
  const change = useChangeTreatment(artwork.id);
  const [isPart, setIsPart] = useState(false);
  if (isPart) return null;
  const after = `/api/artwork/${artwork.id}/picture/lifted?tolerance=${USUAL_TOLERANCE}&version=${artwork.version}`;
  return (
    <div className={styles.lift}>
      <span>
        The picture has its own background, {artwork.facts.ground_colour ?? "a checkerboard"}, which stays.
        With it removed, only the mark is left:
      </span>
      <figure>
        <ArtworkPicture artwork={artwork} longest={320} className={styles.thumbnail ?? ""} />
        <figcaption>now</figcaption>
      </figure>
      <figure>
        <span className={`clear-ground ${styles.thumbnail}`}>
          <img src={after} alt="The artwork without its background" onError={() => setIsPart(true)} />
        </span>
        <figcaption>after</figcaption>
      </figure>
      <Button
        size="small"
        loading={change.isPending}
        onClick={() => change.mutate({ ...artwork.treatment, lift: USUAL_TOLERANCE })}
      >
        Remove the background
      </Button>
      {change.error && <Alert type="error" showIcon title={change.error.message} />}
    </div>
  );
}
