import type { Planning, Site } from "../../api/client";
import styles from "./install.module.css";

const PICTURE = /\.(ico|png|svg|gif|jpe?g|webp)$/i;

/** The site's tab as it is and as it will be: the icon that is replaced beside the new one, at true size. */
export function OldAndNew({ planning, site }: { planning: Planning; site: Site }) {
  const replaced = planning.plan?.steps.filter(({ kind, path }) => kind === "replace" && PICTURE.test(path));
  const old = replaced?.find(({ path }) => path === "favicon.ico") ?? replaced?.[0];
  if (!planning.plan?.steps.some(({ path }) => path === "favicon.ico")) return null;
  const px = Math.round(16 * devicePixelRatio);
  const query = new URLSearchParams({ path: old?.path ?? "", px: String(px) });
  return (
    <div className={styles.oldAndNew}>
      <figure>
        <span className={styles.tab}>
          {old ? (
            <img src={`/api/plannings/${planning.id}/old-picture?${query}`} alt="" width={16} height={16} />
          ) : (
            <i aria-hidden />
          )}
          {site.name}
        </span>
        <figcaption>{old ? `now, by ${old.path}` : "now: no icon of its own in the top folder"}</figcaption>
      </figure>
      <span aria-hidden>→</span>
      <figure>
        <span className={styles.tab}>
          <img
            src={`/api/builds/${planning.build_id}/files/favicon.ico/frames/16`}
            alt=""
            width={16}
            height={16}
          />
          {site.name}
        </span>
        <figcaption>after</figcaption>
      </figure>
    </div>
  );
}
