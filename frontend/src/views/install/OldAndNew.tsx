import { useState } from "react";

import type { Planning, Site } from "../../api/client";
import styles from "./oldAndNew.module.css";

const PICTURE = /\.(ico|png|svg|gif|jpe?g|webp)$/i;

/** The site's tab as it is and as it will be: the icon that is replaced beside the new one, at true size. */
export function OldAndNew({ planning, site }: { planning: Planning; site: Site }) {
  const [broken, setBroken] = useState(false);
  const steps = planning.plan?.steps ?? [];
  const root = steps.find(({ path }) => path === "favicon.ico");
  if (!root) return null;
  const fresh = `/api/builds/${planning.build_id}/files/favicon.ico/frames/16`;
  const replaced = steps.filter(({ kind, path }) => kind === "replace" && PICTURE.test(path));
  const old = replaced.includes(root) ? root : root.kind === "same" ? undefined : replaced[0];
  const query = new URLSearchParams({ path: old?.path ?? "", px: String(Math.round(16 * devicePixelRatio)) });
  const before =
    root.kind === "same" ? fresh : old && !broken && `/api/plannings/${planning.id}/old-picture?${query}`;
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
        <figcaption>{now(root.kind === "same", old?.path, broken)}</figcaption>
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

function now(same: boolean, replaced: string | undefined, broken: boolean): string {
  if (same) return "Before: the same favicon.ico";
  if (!replaced) return "Before: no icon";
  return broken ? `Before: ${replaced}, which cannot be shown` : `Before: ${replaced}`;
}
