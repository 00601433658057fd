import { Link } from "react-router";

import { pictureOf, type Site } from "../../api/client";
import { ago, when } from "../../app/units";
import { later } from "../../app/later";
import styles from "./siteRow.module.css";
import shared from "./sites.module.css";
import { STATES } from "./states";

const NotSeen = later(async () => (await import("./NotSeen")).NotSeen);

type Props = { site: Site; chosen: boolean; choose: (chosen: boolean) => void };

/** One site: its icon as visitors get it, how far it is, and the next step. */
export function SiteRow({ site, chosen, choose }: Props) {
  const state = STATES[site.state];
  return (
    <li className={styles.row}>
      <input
        type="checkbox"
        aria-label={`Choose ${site.name}`}
        checked={chosen}
        onChange={(event) => choose(event.target.checked)}
      />
      <SeenIcon site={site} />
      <div className={styles.name}>
        <Link to={`/sites/${site.id}/bench`} title={site.name}>
          {site.name}
        </Link>
        <span className="reading" title={site.address}>
          {site.address || "no address yet"}
        </span>
        {site.labels.length > 0 && <span className={styles.labels}>{site.labels.join(", ")}</span>}
      </div>
      <span className={styles.state} data-tone={state.tone}>
        <span aria-hidden>{state.sign}</span> {state.label}
        {site.news.map((news) => (
          <small key={news}>{news}</small>
        ))}
      </span>
      <Link to={`/sites/${site.id}/${state.view}`} className={styles.next}>
        {state.next}
        <span className="unseen"> of {site.name}</span>
      </Link>
    </li>
  );
}

/** The site's icon as visitors get it, when it was looked at last, at 16 and 32 px. */
function SeenIcon({ site }: { site: Site }) {
  if (!site.seen) {
    return (
      <div className={`${styles.icons} ${shared.none}`}>
        <NotSeen site={site} />
      </div>
    );
  }
  const { check_id, sha256, at } = site.seen;
  if (!sha256) return <div className={`${styles.icons} ${shared.none}`}>no icon, {ago(at)}</div>;
  return (
    <div className={styles.icons} title={`Seen ${when(at)}`}>
      {[16, 32].map((size) => (
        <img
          key={size}
          src={pictureOf(check_id, sha256, Math.round(size * devicePixelRatio))}
          alt={`Icon of ${site.name} as visitors get it, ${size} px`}
          width={size}
          height={size}
          loading="lazy"
        />
      ))}
      <span className={styles.seen}>{ago(at)}</span>
    </div>
  );
}
