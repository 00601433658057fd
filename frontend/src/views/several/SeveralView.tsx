import { useQueryClient } from "@tanstack/react-query";
import { Alert, Button, Empty } from "antd";
import { useState } from "react";
import { Link, useLocation } from "react-router";

import { useRefusal } from "../../api/me";
import { buildAsItIs } from "../../api/builds";
import { atEach, check, install, plan, takeOver, undo, useActivity } from "../../api/several";
import { useSites } from "../../api/sites";
import { LoadingView } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import styles from "./severalView.module.css";
import shared from "./several.module.css";
import { SiteAtWork } from "./SiteAtWork";
import { TakeOver } from "./TakeOver";
import { totalOf } from "./total";
import { UndoAll } from "./UndoAll";

/** Builds, checks and installs at several sites at once: one plan for all, progress and a way back for each. */
export function SeveralView() {
  // After the hash, so that however many they are the server is never asked for so long an address.
  const ids = useLocation().hash.slice(1).split(",").map(Number).filter(Boolean);
  const sites = useSites();
  const activity = useActivity(ids);
  const queries = useQueryClient();
  const [refused, setRefused] = useState(new Map<number, string>());
  const [doing, setDoing] = useState<string>();
  const mayEdit = !useRefusal("edits");
  const mayCheck = !useRefusal("checks");
  const refusal = useRefusal("installs");
  if (sites.error && !sites.data)
    return <ProblemNotice problem={sites.error} retry={() => void sites.refetch()} />;
  if (activity.error && !activity.data)
    return <ProblemNotice problem={activity.error} retry={() => void activity.refetch()} />;
  if (!sites.data) return <LoadingView what="Reading the sites" />;
  const chosen = ids.flatMap((id) => sites.data.find((site) => site.id === id) ?? []);
  if (!chosen.length) {
    return (
      <main className={styles.page}>
        <h1>Several sites at once</h1>
        <Empty description="No sites are chosen. Choose some in the list.">
          <Link to="/">Go to the sites</Link>
        </Empty>
      </main>
    );
  }
  const doAtEach = async (
    name: string,
    act: (id: number) => Promise<unknown>,
    at = chosen.map(({ id }) => id),
  ) => {
    setDoing(name);
    setRefused(await atEach(at, act));
    setDoing(undefined);
    await queries.invalidateQueries();
  };
  const told = new Map(activity.data?.map((one) => [one.site_id, one]));
  const total = totalOf(chosen.map(({ id }) => told.get(id)));
  const installAll = () =>
    doAtEach(
      "install",
      (id) => install(id, told.get(id)?.planning?.id ?? 0),
      total.ready.map((one) => one.site_id),
    );
  return (
    <main className={styles.page}>
      <title>{`${chosen.length} sites · Bexi`}</title>
      <h1>{chosen.length === 1 ? "One site" : `${chosen.length} sites at once`}</h1>
      <div className={shared.actions}>
        <Button
          disabled={!mayEdit}
          loading={doing === "build"}
          onClick={() => void doAtEach("build", buildAsItIs)}
        >
          Build each
        </Button>
        <Button
          disabled={!mayCheck}
          loading={doing === "check"}
          onClick={() => void doAtEach("check", check)}
        >
          Check each
        </Button>
        <Button
          disabled={refusal !== undefined}
          title={refusal ?? ""}
          loading={doing === "plan"}
          onClick={() => void doAtEach("plan", plan)}
        >
          Plan installing
        </Button>
        {total.ready.length > 0 && (
          <Button
            className="main-action"
            disabled={refusal !== undefined}
            loading={doing === "install"}
            onClick={() => void installAll()}
          >
            {total.ready.length === 1 ? "Install on 1 site" : `Install on ${total.ready.length} sites`}
          </Button>
        )}
        {!refusal && (
          <UndoAll
            sites={chosen}
            at={activity.data ?? []}
            busy={doing === "undo"}
            undoAt={(sites) => void doAtEach("undo", (id) => undo(told.get(id)?.install?.id ?? 0), sites)}
          />
        )}
      </div>
      {total.ready.length > 0 && (
        <p className={styles.plan} role="status">
          The plan for all: {total.says}. A copy of each file that changes is kept; nothing has been changed
          yet.
          {total.warned > 0 && ` ${total.warned} of them warn; look at each first.`}
        </p>
      )}
      {mayEdit && (
        <TakeOver
          busy={doing === "take-over"}
          takeOver={(from, what) =>
            doAtEach("take-over", (id) => (id === from ? Promise.resolve() : takeOver(id, from, what)))
          }
        />
      )}
      {refused.size > 0 && (
        <Alert
          type="warning"
          showIcon
          closable
          title={refused.size === 1 ? "One site refused." : `${refused.size} sites refused.`}
          description="Each says why below; the others went on."
        />
      )}
      <ul className={styles.list}>
        {chosen.map((site) => (
          <SiteAtWork key={site.id} site={site} at={told.get(site.id)} refused={refused.get(site.id)} />
        ))}
      </ul>
    </main>
  );
}
