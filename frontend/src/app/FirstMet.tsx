import { useState } from "react";

import { WORDS } from "./finder/words";
import styles from "./firstMet.module.css";

const OFTEN = 3;
const LONG_AGO_MS = 90 * 24 * 3600 * 1000;
type Met = { times: number; last: number };

/** One of our own words in a line, the first times it is met and again after a long while; `named` where it is new. */
export function FirstMet({ word, named = false }: { word: string; named?: boolean }) {
  const [shown] = useState(() => meet(word));
  if (!shown) return null;
  const line = named ? `${word}: ${WORDS[word]}.` : `${WORDS[word]}.`;
  return (
    <p className={styles.word}>
      {line[0]?.toUpperCase()}
      {line.slice(1)}
    </p>
  );
}

/** Each opening of the page counts once. */
const inThisPage = new Map<string, boolean>();

function meet(word: string): boolean {
  const known = inThisPage.get(word);
  if (known !== undefined) return known;
  const shown = isNew(word);
  inThisPage.set(word, shown);
  return shown;
}

function isNew(word: string): boolean {
  const key = `bexi-met-${word}`;
  try {
    const met = JSON.parse(localStorage.getItem(key) ?? "null") as Met | null;
    const times = met && Date.now() - met.last < LONG_AGO_MS ? met.times : 0;
    localStorage.setItem(key, JSON.stringify({ times: times + 1, last: Date.now() }));
    return times < OFTEN;
  } catch {
    return true;
  }
}
