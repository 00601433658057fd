/** Nothing moves under a pointer that is down until its press has hit what it was aimed at. */

/** A pointer that rests longer, or is further from where it went down, is about something else than a press. */
const LONGEST_MS = 1000;
const STILL_PX = 4;
/** A finger's click comes a little after it is lifted. */
const CLICK_MS = 30;

let press: { x: number; y: number; over: ReturnType<typeof setTimeout> } | undefined;
let waiting: (() => void)[] = [];

function overIn(ms: number): void {
  if (!press) return;
  clearTimeout(press.over);
  press.over = setTimeout(over, ms);
}

function over(): void {
  clearTimeout(press?.over);
  press = undefined;
  const works = waiting;
  waiting = [];
  for (const work of works) work();
}

addEventListener(
  "pointerdown",
  ({ clientX, clientY }) => {
    over();
    press = { x: clientX, y: clientY, over: setTimeout(over, LONGEST_MS) };
  },
  true,
);
addEventListener(
  "pointermove",
  ({ clientX, clientY }) => {
    if (press && Math.hypot(clientX - press.x, clientY - press.y) > STILL_PX) over();
  },
  true,
);
for (const end of ["pointerup", "pointercancel"] as const)
  addEventListener(end, () => overIn(CLICK_MS), true);
addEventListener("click", () => overIn(0), true);

/** Do what moves other things: at once, or after the press that is under way. */
export function afterPress(work: () => void): void {
  if (press) waiting.push(work);
  else work();
}
