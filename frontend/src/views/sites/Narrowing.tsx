import type { Site } from "../../api/client";
import { ORDERS, type Wanted } from "./narrowing";
import styles from "./narrowing.module.css";
import { STATES } from "./states";

type Props = {
  sites: Site[];
  found: number;
  wanted: Wanted;
  set: (wanted: Wanted) => void;
  allChosen: boolean;
  chooseAll: (on: boolean) => void;
};

/** Finds sites among many. The plain elements of the browser: this is the first screen. */
export function Narrowing({ sites, found, wanted, set, allChosen, chooseAll }: Props) {
  const labels = [...new Set(sites.flatMap((site) => site.labels))].sort();
  return (
    <search className={styles.narrowing}>
      <input
        type="checkbox"
        aria-label={`Choose all ${found}`}
        title={`Choose all ${found}`}
        checked={allChosen}
        onChange={(event) => chooseAll(event.target.checked)}
      />
      <input
        type="search"
        aria-label="Search the sites"
        placeholder="Search by name, address, place or label"
        value={wanted.words}
        onChange={(event) => set({ ...wanted, words: event.target.value })}
      />
      <select
        aria-label="State"
        value={wanted.state}
        onChange={(event) => set({ ...wanted, state: event.target.value as Wanted["state"] })}
      >
        <option value="">Any state</option>
        {Object.entries(STATES).map(([state, { label }]) => (
          <option key={state} value={state}>
            {label}
          </option>
        ))}
      </select>
      {labels.length > 0 && (
        <select
          aria-label="Label"
          value={wanted.label}
          onChange={(event) => set({ ...wanted, label: event.target.value })}
        >
          <option value="">Any label</option>
          {labels.map((label) => (
            <option key={label}>{label}</option>
          ))}
        </select>
      )}
      <select
        aria-label="Order"
        value={wanted.order}
        onChange={(event) => set({ ...wanted, order: event.target.value as Wanted["order"] })}
      >
        {Object.entries(ORDERS).map(([order, told]) => (
          <option key={order} value={order}>
            {told}
          </option>
        ))}
      </select>
      <span className={styles.count} role="status">
        {found === sites.length ? `${found} sites` : `${found} of ${sites.length}`}
      </span>
    </search>
  );
}
