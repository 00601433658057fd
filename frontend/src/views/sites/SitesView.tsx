import { Button } from "antd";
import { useDeferredValue, useState } from "react";

import { useRefusal } from "../../api/me";
import { useFoundSites, useSites } from "../../api/sites";
import { Loading } from "../../app/Loading";
import { EVERYTHING, narrowed } from "./narrowing";
import { SiteRow } from "./SiteRow";
import { later } from "../../app/later";
import styles from "./sitesView.module.css";

// What the usual visit does not need comes when it is needed.
const ProblemNotice = later(async () => (await import("../../app/ProblemNotice")).ProblemNotice);
const FrontDoor = later(async () => (await import("./FrontDoor")).FrontDoor);
const NoSites = later(async () => (await import("./NoSites")).NoSites);
const AddSite = later(async () => (await import("./AddSite")).AddSite);
const Narrowing = later(async () => (await import("./Narrowing")).Narrowing);
const Lists = later(async () => (await import("./Lists")).Lists);
const ChosenSites = later(async () => (await import("./ChosenSites")).ChosenSites);

const SHOWN = 50;

export function SitesView() {
  const first = useFoundSites("", SHOWN); // there long before all of many, which are asked for after them
  const many = first.data?.length === SHOWN;
  const whole = useSites(many);
  const sites = many && whole.data ? whole : first;
  const error = first.error ?? whole.error;
  const [adding, setAdding] = useState(false);
  const [wanted, setWanted] = useState(EVERYTHING);
  const [most, setMost] = useState(SHOWN);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const refusal = useRefusal("edits");
  const all = sites.data ?? [];
  const found = narrowed(all, useDeferredValue(wanted));
  const marked = all.filter(({ id }) => chosen.has(id));
  const choose = (ids: number[], on: boolean) => {
    const rest = [...chosen].filter((id) => !ids.includes(id));
    setChosen(new Set(on ? [...rest, ...ids] : rest));
  };
  return (
    <main className={styles.page}>
      <title>Sites · Bexi</title>
      {!refusal && (
        <div className={styles.door}>
          <FrontDoor />
        </div>
      )}
      <div className={styles.head}>
        <h1>Sites</h1>
        <Button disabled={refusal !== undefined} title={refusal ?? ""} onClick={() => setAdding(true)}>
          Add a site
        </Button>
      </div>
      {sites.isPending && <Loading what="Reading the sites" />}
      {error && <ProblemNotice problem={error} retry={() => void (first.error ? first : whole).refetch()} />}
      {sites.data?.length === 0 && <NoSites />}
      {all.length > 1 && (
        <Narrowing
          sites={all}
          found={found.length}
          wanted={wanted}
          set={(next) => {
            setWanted(next);
            setMost(SHOWN);
          }}
          allChosen={found.length > 0 && found.every(({ id }) => chosen.has(id))}
          chooseAll={(on) =>
            choose(
              found.map(({ id }) => id),
              on,
            )
          }
        />
      )}
      <ul className={styles.list}>
        {found.slice(0, most).map((site) => (
          <SiteRow
            key={site.id}
            site={site}
            chosen={chosen.has(site.id)}
            choose={(on) => choose([site.id], on)}
          />
        ))}
      </ul>
      {found.length > most && (
        <Button className={styles.more ?? ""} onClick={() => setMost(most + 2 * SHOWN)}>
          Show more of the other {found.length - most}
        </Button>
      )}
      {sites.data && <Lists />}
      {chosen.size > 0 && <ChosenSites sites={marked} done={() => setChosen(new Set())} />}
      {adding && <AddSite close={() => setAdding(false)} />}
    </main>
  );
}
