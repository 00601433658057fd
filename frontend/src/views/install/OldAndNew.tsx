import { useState } from "react";

import type { Planning, Site } from "../../api/client";
import styles from "./oldAndNew.module.css";

/** The site's tab as it is and as it will be: the icon that most browsers show now beside the new one, at true size. */
export function OldAndNew({ planning, site }: { planning: Planning; site: Site }) {
  const [broken, setBroken] = useState(false);
  const steps = planning.plan?.steps ?? [];
  const root = steps.find(({ path }) => path === "favicon.ico");
  if (!root) return null;
  const fresh = `/api/builds/${planning.build_id}/files/favicon.ico/frames/16`;
  const shown = planning.plan?.shown;
  const same = root.kind === "same" && shown === root.path;
  const before =
    shown && !broken && `/api/plannings/${planning.id}/old-picture?px=${Math.round(16 * devicePixelRatio)}`;
  return (
    <div className={styles.oldAndNew}>
      <figure>
        <span className={styles.tab}>
          {before ? (
            <img src={before} alt="" width={16} height={16} onError={() => setBroken(true)} />
          ) : (
            <i aria-hidden />
          )}
          {site.name}
        </span>
        <figcaption>{told(shown, same, broken)}</figcaption>
      </figure>
      <span aria-hidden>→</span>
      <figure>
        <span className={styles.tab}>
          <img src={fresh} alt="" width={16} height={16} />
          {site.name}
        </span>
        <figcaption>After</figcaption>
      </figure>
    </div>
  );
}

function told(shown: string | null | undefined, same: boolean, broken: boolean): string {
  if (same) return "Before: the same favicon.ico";
  if (shown === "") return "Before: no icon";
  if (!shown) return "Before: the live check shows it";
  return broken ? `Before: ${shown}, which cannot be shown` : `Before: ${shown}, in most browsers`;
}
