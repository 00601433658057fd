import { Button } from "antd";
import type { ReactNode } from "react";
import { Link } from "react-router";

import { isLooking, pictureOf, useChecks, useOrderCheck } from "../../api/checks";
import type { Site } from "../../api/client";
import { ago, when } from "../../app/units";
import styles from "./sites.module.css";
import { STATES } from "./states";

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
  const look = useOrderCheck(site.id);
  const checks = useChecks(site.id, look.isSuccess);
  if (checks.data?.[0] && isLooking(checks.data[0])) return <Unseen>looking …</Unseen>;
  if (!site.seen) {
    return (
      <Unseen>
        {site.address ? (
          <Button size="small" loading={look.isPending} onClick={() => look.mutate(undefined)}>
            Look now<span className="unseen"> at {site.name}</span>
          </Button>
        ) : (
          "not looked at"
        )}
      </Unseen>
    );
  }
  const { check_id, sha256, at } = site.seen;
  if (!sha256) return <Unseen>no icon, {ago(at)}</Unseen>;
  return (
    <div className={styles.icons} title={`Seen ${when(at)}`}>
      {[16, 32].map((size) => (
        <img
          key={size}
          src={pictureOf(check_id, sha256, Math.round(size * devicePixelRatio))}
          alt={`Icon of ${site.name} as visitors get it, ${size} px`}
          width={size}
          height={size}
        />
      ))}
      <span className={styles.seen}>{ago(at)}</span>
    </div>
  );
}

const Unseen = ({ children }: { children: ReactNode }) => (
  <div className={`${styles.icons} ${styles.none}`}>{children}</div>
);
