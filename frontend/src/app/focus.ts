import { useEffect } from "react";

const FOCUSABLE =
  "a[href], button, input, select, textarea, summary, [tabindex]:not([tabindex='-1']), [role=combobox]";
/** What has a heading or controls of its own to hand the focus to. */
const VIEW = "main, header, [role=dialog]";

export const canTake = (element: Element): element is HTMLElement =>
  element instanceof HTMLElement && !element.matches(":disabled") && element.checkVisibility();
const controlsOf = (home: Element) => [...home.querySelectorAll(FOCUSABLE)].filter(canTake);
export const isNowhere = () => document.activeElement === null || document.activeElement === document.body;

/** Focus the main heading, from where one reads on. */
export function focusHeading(): HTMLElement | undefined {
  const heading =
    document.querySelector<HTMLElement>("main h1") ?? document.querySelector<HTMLElement>("main h2");
  if (!heading) return undefined;
  if (heading !== document.activeElement) {
    heading.tabIndex = -1;
    heading.focus({ preventScroll: true });
  }
  return heading;
}

type Home = { element: Element; position: number };

/** When the control with the focus goes or is switched off, its neighbour gets the focus: it is never nowhere. */
export function useHandingOn() {
  useEffect(() => {
    let control: Element | undefined;
    let homes: Home[] = [];
    const remember = ({ target }: FocusEvent) => {
      control = undefined;
      homes = [];
      if (!(target instanceof Element) || !target.matches(FOCUSABLE)) return; // a heading that was arrived at, say
      control = target;
      for (let home = control.parentElement; home; home = home.parentElement) {
        homes.push({ element: home, position: controlsOf(home).indexOf(control as HTMLElement) });
        if (home.matches(VIEW)) break;
      }
    };
    const isThere = () => control?.isConnected && canTake(control);
    const leave = () =>
      setTimeout(() => {
        if (isNowhere() && isThere()) control = undefined; // somebody pressed beside it
      });
    const handOn = () => {
      if (!control || !isNowhere() || isThere()) return;
      for (const { element, position } of homes) {
        if (!element.isConnected) continue;
        if (element.matches("main")) {
          focusHeading(); // its part of the view is gone: one begins anew
          return;
        }
        const controls = controlsOf(element);
        const next = controls[Math.min(Math.max(position, 0), controls.length - 1)];
        if (!next) continue;
        next.focus({ preventScroll: true });
        return;
      }
    };
    const watch = new MutationObserver(handOn);
    watch.observe(document.body, {
      childList: true,
      subtree: true,
      attributes: true,
      attributeFilter: ["disabled"],
    });
    addEventListener("focusin", remember);
    addEventListener("focusout", leave);
    return () => {
      watch.disconnect();
      removeEventListener("focusin", remember);
      removeEventListener("focusout", leave);
    };
  }, []);
}
