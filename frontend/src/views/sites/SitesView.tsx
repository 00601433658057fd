import { Button, Empty, Modal } from "antd";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import type { Site } from "../../api/client";
import { useAddSite, useSites } from "../../api/sites";
import { Loading } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { TrueSize } from "../../app/TrueSize";
import { SiteForm } from "./SiteForm";
import styles from "./sites.module.css";

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
  return (
    <main className={styles.page}>
      <div className={styles.head}>
        <h1>Sites</h1>
        <Button onClick={() => setAdding(true)}>Add a site</Button>
      </div>
      {sites.isPending && <Loading what="Reading the sites" />}
      {sites.error && <ProblemNotice problem={sites.error} retry={() => void sites.refetch()} />}
      {sites.data?.length === 0 && (
        <Empty description="No sites yet. Add the first one to give it an icon.">
          <Button onClick={() => setAdding(true)}>Add a site</Button>
        </Empty>
      )}
      <ul className={styles.list}>
        {sites.data?.map((site) => (
          <SiteRow key={site.id} site={site} />
        ))}
      </ul>
      {adding && <AddSite close={() => setAdding(false)} />}
    </main>
  );
}

function SiteRow({ site }: { site: Site }) {
  const state = STATES[site.state];
  return (
    <li className={styles.row}>
      <InstalledIcon site={site} />
      <div className={styles.name}>
        <Link to={`/sites/${site.id}/bench`}>{site.name}</Link>
        <span className="reading">{site.address || "no address yet"}</span>
      </div>
      <span className={styles.state} data-tone={state.tone}>
        <span aria-hidden>{state.sign}</span> {state.label}
      </span>
      <Link to={`/sites/${site.id}/${state.view}`} className={styles.next}>
        {state.next}
        <span className="unseen"> of {site.name}</span>
      </Link>
    </li>
  );
}

/** What Bexi installed there last, at 16 and 32 px. */
function InstalledIcon({ site }: { site: Site }) {
  if (!site.installed_build_id) {
    return <div className={`${styles.icons} ${styles.none}`}>none installed</div>;
  }
  const file = (size: number) => `/api/builds/${site.installed_build_id}/files/icon-${size}.png`;
  return (
    <div className={styles.icons}>
      <TrueSize src={file(16)} size={16} alt={`Installed icon of ${site.name}, 16 px`} />
      <TrueSize src={file(32)} size={32} alt={`Installed icon of ${site.name}, 32 px`} />
    </div>
  );
}

function AddSite({ close }: { close: () => void }) {
  const add = useAddSite();
  const navigate = useNavigate();
  return (
    <Modal open getContainer={false} title="Add a site" footer={null} onCancel={close}>
      <SiteForm
        initial={{ name: "", address: "", place: "" }}
        action="Add the site"
        saving={add}
        save={(site) => add.mutate(site, { onSuccess: ({ id }) => void navigate(`/sites/${id}/artwork`) })}
      />
    </Modal>
  );
}
