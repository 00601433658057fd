export const canTake = (element: Element): element is HTMLElement =>
  element instanceof HTMLElement && !element.matches(":disabled") && element.checkVisibility();
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

/** Give the focus back to what had it, or to the heading of what stands there now; not when somebody took it since. */
export function focusAgain(element: Element | null): void {
  if (!isNowhere()) return;
  if (element?.isConnected && element !== document.body && canTake(element)) element.focus();
  else focusHeading();
}
