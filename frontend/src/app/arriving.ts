import { useLayoutEffect, useRef } from "react";

import { focusHeading } from "./focus";

const MOST_MS = 8000;
/** One that is closed lies in a layer that is not shown. */
const OPEN_DIALOG = ':not([style*="none"]) > [role="dialog"]';
/** From then on the person says where the focus goes. */
const BY_HAND = ["keydown", "pointerdown"] as const;

/** The focus goes to the heading of where one is, as soon as it is there, unless somebody moves it from `from`. */
function arrive(from: Element | null): () => void {
  let at = from;
  // What is shown first may give way to what is read meanwhile, and take the focus with it.
  const goThere = () => {
    if (document.activeElement !== at && document.activeElement !== document.body) return;
    if (document.querySelector(OPEN_DIALOG)) return; // opened before this view was there
    at = focusHeading() ?? at; // a lesser one gives way to the main one, should that come later
  };
  const watch = new MutationObserver(goThere);
  const stop = () => {
    watch.disconnect();
    clearTimeout(end);
    for (const kind of BY_HAND) removeEventListener(kind, stop, true);
  };
  const end = setTimeout(stop, MOST_MS);
  goThere();
  watch.observe(document.body, { childList: true, subtree: true });
  for (const kind of BY_HAND) addEventListener(kind, stop, true);
  return stop;
}

/** After each step the focus goes to the heading of where one is: to another view, or to what `step` tells within one. */
export function useArriving(step: string) {
  const before = useRef(step);
  // At once: what a person does after what is shown has changed is theirs.
  useLayoutEffect(() => {
    if (step === before.current) return; // the page itself was just opened; its beginning is where one is
    before.current = step;
    return arrive(document.activeElement);
  }, [step]);
}

/** Puts the focus into the view, past the bar. */
export function skipTheBar() {
  const main = document.querySelector<HTMLElement>("main");
  if (!main) return;
  main.tabIndex = -1;
  main.focus();
}
