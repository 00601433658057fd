import { Alert, Button, Segmented } from "antd";
import { useState } from "react";

import type { Site, Visitor } from "../../api/client";
import { useFoundSites, useSites } from "../../api/sites";
import {
  useClearCache,
  useMoveClock,
  useSetClock,
  useStartOver,
  useVisit,
  useVisitor,
} from "../../api/visitor";
import { LoadingView } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { when } from "../../app/units";
import { Browser } from "./Browser";
import { type Engine, ENGINES } from "./engines";
import { Phone } from "./Phone";
import { SitePicker } from "../../app/SitePicker";
import styles from "./visitorView.module.css";
import shared from "./visitor.module.css";

const HOUR = 3600;
const DAY = 24 * HOUR;
const STEPS: [string, number][] = [
  ["+1 hour", HOUR],
  ["+1 day", DAY],
  ["+1 week", 7 * DAY],
];

/** A simulated browser and phone: visit, come back later by a clock that can be moved, and see which icon is shown. */
export function VisitorView() {
  const visitor = useVisitor();
  const sites = useSites();
  const [engine, setEngine] = useState<Engine>("blink");
  if (visitor.isPending || sites.isPending) return <LoadingView what="Opening the visitor" />;
  if (!visitor.data) return <ProblemNotice problem={visitor.error} retry={() => void visitor.refetch()} />;
  const nameOf = (address: string) =>
    sites.data?.find((site) => site.address === address)?.name ?? hostOf(address);
  return (
    <main className={styles.view}>
      <title>Simulated visitor · Bexi</title>
      <div>
        <h1>Simulated visitor</h1>
        <p className={styles.lead}>
          No real browser and no real phone: a simulated one that follows the same rules, with a cache, and a
          clock that you can move on. The icons are the very bytes it got.
        </p>
      </div>
      <div className={styles.columns}>
        <aside className={styles.side} aria-label="What the visitor does">
          <Visit />
          <Clock visitor={visitor.data} />
          <Cache visitor={visitor.data} />
        </aside>
        <div className={styles.main}>
          <Segmented
            aria-label="Whose browser"
            value={engine}
            options={ENGINES.map(([value, label, title]) => ({ value, label, title }))}
            onChange={setEngine}
          />
          <Browser visitor={visitor.data} engine={engine} nameOf={nameOf} />
          <Phone visitor={visitor.data} nameOf={nameOf} />
        </div>
      </div>
    </main>
  );
}

function hostOf(address: string): string {
  try {
    return new URL(address).host;
  } catch {
    return address;
  }
}

function Visit() {
  const sites = useFoundSites("").data;
  const [picked, setPicked] = useState<Site>();
  const site = picked ?? sites?.find(({ address }) => address);
  const visit = useVisit();
  const address = site?.address ?? "";
  return (
    <section className={shared.panel} aria-label="Visit">
      <h2>Visit a site</h2>
      <SitePicker label="Site to visit" chosen={site} choose={setPicked} fits={(one) => one.address !== ""} />
      <div className={shared.row}>
        <Button
          type="primary"
          disabled={!address}
          loading={visit.isPending && !visit.variables.private}
          onClick={() => visit.mutate({ address, private: false })}
        >
          Visit
        </Button>
        <Button
          disabled={!address}
          loading={visit.isPending && visit.variables.private}
          onClick={() => visit.mutate({ address, private: true })}
        >
          In a private window
        </Button>
      </div>
      {visit.error && <Alert type="error" showIcon title={visit.error.message} />}
    </section>
  );
}

function Clock({ visitor }: { visitor: Visitor }) {
  const set = useSetClock();
  const move = useMoveClock();
  return (
    <section className={shared.panel} aria-label="Clock">
      <h2>Clock</h2>
      <p>
        <strong>{when(visitor.clock)}</strong>
        <br />
        {visitor.ahead ? `${told(visitor.ahead)} ahead` : "the real time"}
      </p>
      <div className={shared.row}>
        {STEPS.map(([label, seconds]) => (
          <Button key={label} onClick={() => move.mutate(seconds)}>
            {label}
          </Button>
        ))}
        {visitor.ahead > 0 && <Button onClick={() => set.mutate(0)}>Reset</Button>}
      </div>
    </section>
  );
}

function told(seconds: number): string {
  const days = Math.floor(seconds / DAY);
  const hours = Math.round((seconds % DAY) / HOUR);
  const parts = [days && `${days} ${days === 1 ? "day" : "days"}`, hours && `${hours} h`];
  return parts.filter(Boolean).join(" ");
}

function Cache({ visitor }: { visitor: Visitor }) {
  const clear = useClearCache();
  const over = useStartOver();
  return (
    <section className={shared.panel} aria-label="Cache">
      <h2>Its cache</h2>
      <p>{visitor.kept ? `It keeps ${visitor.kept} files.` : "It keeps nothing."}</p>
      <div className={shared.row}>
        <Button disabled={!visitor.kept} onClick={() => clear.mutate(undefined)}>
          Clear the cache
        </Button>
        <Button onClick={() => over.mutate(undefined)}>Start over</Button>
      </div>
    </section>
  );
}
