/** Whether a pointer is down: nothing may move under it until its press is over. */

let isDown = false;
addEventListener("pointerdown", () => (isDown = true), true);
for (const end of ["pointerup", "pointercancel"] as const)
  addEventListener(end, () => (isDown = false), true);

/** Do what moves other things: at once, or after the press that is under way has hit what it was aimed at. */
export function afterPress(work: () => void): void {
  if (!isDown) {
    work();
    return;
  }
  const end = () => {
    removeEventListener("pointerup", end, true);
    removeEventListener("pointercancel", end, true);
    setTimeout(work); // once the click is dealt with
  };
  addEventListener("pointerup", end, true);
  addEventListener("pointercancel", end, true);
}
