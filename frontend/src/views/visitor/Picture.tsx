import type { Sighted } from "../../api/client";
import { visitorPicture } from "../../api/visitor";
import styles from "./picture.module.css";

type Props = { shown: Sighted | undefined; side: number; name: string };

/** The very bytes the visitor got, at the size at which they are shown; a dashed box for none. */
export function Picture({ shown, side, name }: Props) {
  if (!shown?.sha256) {
    return (
      <i
        className={styles.none}
        style={{ width: side, height: side }}
        role="img"
        aria-label={`${name}: no icon`}
      />
    );
  }
  const px = Math.min(512, Math.round(side * devicePixelRatio));
  return <img src={visitorPicture(shown.sha256, px)} alt={`Icon of ${name}`} width={side} height={side} />;
}
