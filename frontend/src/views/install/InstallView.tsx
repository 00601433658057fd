import { Alert, App, Button, Empty } from "antd";
import { useState } from "react";
import { Link } from "react-router";

import type { Site } from "../../api/client";
import { useChangeSite, useInstall, useInstallPlan } from "../../api/queries";
import { Loading } from "../../app/Loading";
import { useSite } from "../../app/SiteFrame";
import { SiteForm } from "../sites/SiteForm";
import { History } from "./History";
import styles from "./install.module.css";
import { Plan } from "./Plan";

/** Where the site lives, exactly what will happen, and what was done before. */
export function InstallView() {
  const site = useSite();
  return (
    <main className={styles.view}>
      <PlanSection site={site} />
      <aside className={styles.side}>
        <Place site={site} />
        <History site={site} />
      </aside>
    </main>
  );
}

function PlanSection({ site }: { site: Site }) {
  const ready = site.folder !== "" && site.has_build;
  const plan = useInstallPlan(site.id, ready);
  const install = useInstall(site.id);
  const { message } = App.useApp();
  if (!site.has_build) {
    return (
      <Empty
        className={styles.empty ?? ""}
        description="Nothing is built for this site yet. Build the set first."
      >
        <Link to={`/sites/${site.id}/bench`}>
          <Button type="primary">Go to the bench</Button>
        </Link>
      </Empty>
    );
  }
  if (!site.folder) {
    return <Empty className={styles.empty ?? ""} description="Say where the site lives, at the right." />;
  }
  if (plan.isPending || plan.isFetching) return <Loading what="Reading the site and planning" />;
  if (plan.error) {
    return (
      <div className={styles.plan}>
        <Alert
          type="error"
          showIcon
          title={plan.error.message}
          action={<Button onClick={() => void plan.refetch()}>Plan again</Button>}
        />
      </div>
    );
  }
  const carryOut = () =>
    install.mutate(plan.data.fingerprint, {
      onSuccess: (done) => void message.success(`Build ${done.build_number} is installed.`),
    });
  return (
    <section className={styles.plan} aria-label="Install plan">
      <div className={styles.planHead}>
        <div>
          <h1>
            {plan.data.changes
              ? `Install build ${plan.data.build_number}`
              : `Build ${plan.data.build_number} is in place`}
          </h1>
          <p>
            {plan.data.changes
              ? `${plan.data.changes} files change; a copy of each is kept. Nothing was touched yet.`
              : "Every file and page is already as this build wants it."}
            {site.state === "draft" && " The draft on the bench is ahead of it; build the set to catch up."}
          </p>
        </div>
        {plan.data.changes > 0 && (
          <Button className="main-action" size="large" loading={install.isPending} onClick={carryOut}>
            Install {plan.data.changes} changes
          </Button>
        )}
      </div>
      {install.error && <Alert type="error" showIcon title={install.error.message} />}
      <Plan plan={plan.data} />
    </section>
  );
}

function Place({ site }: { site: Site }) {
  const [changing, setChanging] = useState(site.folder === "");
  const change = useChangeSite(site.id);
  if (changing) {
    return (
      <section>
        <h2>Where the site lives</h2>
        <SiteForm
          initial={site}
          action="Keep"
          saving={change}
          save={(next) => change.mutate(next, { onSuccess: () => setChanging(false) })}
        />
      </section>
    );
  }
  return (
    <section className={styles.place}>
      <h2>Where the site lives</h2>
      <p>
        A folder on this machine:
        <br />
        <code>{site.folder}</code>
      </p>
      {site.address && (
        <p>
          Visitors see it at{" "}
          <a href={site.address} target="_blank" rel="noreferrer">
            {site.address}
          </a>
        </p>
      )}
      <Button onClick={() => setChanging(true)}>Change</Button>
    </section>
  );
}
