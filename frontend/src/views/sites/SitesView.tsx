import { Button } from "antd";
import { lazy, type ReactNode, Suspense, useState } from "react";
import { Link } from "react-router";

import { isLooking, pictureOf, useChecks, useOrderCheck } from "../../api/checks";
import type { Site } from "../../api/client";
import { useRefusal } from "../../api/people";
import { useSites } from "../../api/sites";
import { Loading } from "../../app/Loading";
import { ago, when } from "../../app/units";
import styles from "./sites.module.css";

// What the usual visit does not need comes when it is needed.
const ProblemNotice = lazy(async () => ({
  default: (await import("../../app/ProblemNotice")).ProblemNotice,
}));
const NoSites = lazy(async () => ({ default: (await import("./NoSites")).NoSites }));
const AddSite = lazy(async () => ({ default: (await import("./AddSite")).AddSite }));

const STATES: Record<
  Site["state"],
  { sign: string; label: string; next: string; view: string; tone: string }
> = {
  empty: { sign: "○", label: "No icon yet", next: "Choose an artwork", view: "artwork", tone: "second" },
  draft: { sign: "◐", label: "Draft ahead", next: "Go on at the bench", view: "bench", tone: "caution" },
  built: {
    sign: "◑",
    label: "Built, not installed",
    next: "Install the set",
    view: "install",
    tone: "caution",
  },
  installed: {
    sign: "●",
    label: "Installed, not checked",
    next: "Check it live",
    view: "live-check",
    tone: "good",
  },
  verified: { sign: "✓", label: "Live and verified", next: "Open", view: "bench", tone: "good" },
  problems: {
    sign: "!",
    label: "Problems found",
    next: "See what is wrong",
    view: "live-check",
    tone: "bad",
  },
};

export function SitesView() {
  const sites = useSites();
  const [adding, setAdding] = useState(false);
  const refusal = useRefusal("edits");
  return (
    <main className={styles.page}>
      <title>Sites · Bexi</title>
      <div className={styles.head}>
        <h1>Sites</h1>
        <Button disabled={refusal !== undefined} title={refusal ?? ""} onClick={() => setAdding(true)}>
          Add a site
        </Button>
      </div>
      {sites.isPending && <Loading what="Reading the sites" />}
      <Suspense>
        {sites.error && <ProblemNotice problem={sites.error} retry={() => void sites.refetch()} />}
      </Suspense>
      <Suspense>{sites.data?.length === 0 && <NoSites add={() => setAdding(true)} />}</Suspense>
      <ul className={styles.list}>
        {sites.data?.map((site) => (
          <SiteRow key={site.id} site={site} />
        ))}
      </ul>
      {adding && (
        <Suspense>
          <AddSite close={() => setAdding(false)} />
        </Suspense>
      )}
    </main>
  );
}

function SiteRow({ site }: { site: Site }) {
  const state = STATES[site.state];
  return (
    <li className={styles.row}>
      <SeenIcon site={site} />
      <div className={styles.name}>
        <Link to={`/sites/${site.id}/bench`} title={site.name}>
          {site.name}
        </Link>
        <span className="reading" title={site.address}>
          {site.address || "no address yet"}
        </span>
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
