import { Slider } from "antd";
import { useState } from "react";

import type { Check, Site, TimeLine } from "../../api/client";
import styles from "./visitors.module.css";
import shared from "./livecheck.module.css";
import { Sight } from "./Sight";

type Props = { site: Site; check: Check; line: TimeLine };

const ENGINES = [
  ["blink", "Most browsers on desks and phones", "Blink"],
  ["gecko", "Another family, mostly on desks", "Gecko"],
  ["webkit", "The browsers of one phone maker", "WebKit, by the standard"],
] as const;

const LAUNCHERS = [
  ["search", "Search result"],
  ["home-screen", "Home screen"],
  ["app", "Installed as an app"],
] as const;

/** What visitors see, by when they came first and when they come back, with the very bytes they got. */
export function Visitors({ site, check, line }: Props) {
  const [came, setCame] = useState(0);
  const [returns, setReturns] = useState(0);
  const sights = line.distinct[line.seen[came]?.[returns] ?? 0] ?? {};
  const about = { site, check, built: site.installed_build_id };
  return (
    <section className={shared.panel} aria-label="What visitors see">
      <h2>What visitors see</h2>
      <div className={styles.line}>
        <Stop label="Came first" stops={line.came} value={came} set={setCame} />
        <Stop
          label="Comes back"
          stops={line.returns}
          value={returns}
          set={setReturns}
          disabled={came === 0}
        />
        <p>{sentence(line, came, returns)}</p>
      </div>
      <div className={styles.sights}>
        {ENGINES.map(([kind, name, told]) => (
          <Sight key={kind} {...about} kind={kind} name={name} told={told} shown={sights[kind]} />
        ))}
        {LAUNCHERS.map(([kind, name]) => (
          <Sight key={kind} {...about} kind={kind} name={name} shown={sights[kind]} />
        ))}
      </div>
    </section>
  );
}

function sentence({ came, returns }: TimeLine, first: number, back: number): string {
  if (first === 0) return "Somebody who comes for the first time, or in a private window, sees this:";
  return `Somebody who came ${came[first]} and comes back ${returns[back]} sees this:`;
}

type StopProps = {
  label: string;
  stops: string[];
  value: number;
  set: (value: number) => void;
  disabled?: boolean;
};

function Stop({ label, stops, value, set, disabled = false }: StopProps) {
  const told = stops[value] ?? "";
  return (
    <div className={styles.stop}>
      <span>
        {label} <strong>{told}</strong>
      </span>
      <Slider
        min={0}
        max={stops.length - 1}
        value={value}
        onChange={set}
        disabled={disabled}
        tooltip={{ open: false }}
        ariaLabelForHandle={label}
        ariaValueTextFormatterForHandle={(at) => stops[at] ?? ""}
      />
    </div>
  );
}
