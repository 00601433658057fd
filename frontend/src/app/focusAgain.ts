import { canTake, focusHeading, isNowhere } from "./focus";

/** Give the focus back to what had it, or to the heading of what stands there now; not when somebody took it since. */
export function focusAgain(element: Element | null): void {
  if (!isNowhere()) return;
  if (element?.isConnected && element !== document.body && canTake(element)) element.focus();
  else focusHeading();
}
