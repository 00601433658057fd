import type { Activity } from "../../api/client";
import { isGoingOn } from "../../api/several";

/** What the plans that are made and not carried out yet come to. */
export function totalOf(at: (Activity | undefined)[]) {
  const ready = at.flatMap((one) => (one && isReady(one) ? [one] : []));
  const sum = (count: "added" | "replaced" | "edited") =>
    ready.reduce((all, { planning }) => all + (planning?.[count] ?? 0), 0);
  const says = `${sum("added")} new files, ${sum("replaced")} replaced or removed, ${sum("edited")} pages edited`;
  return { ready, says, warned: ready.filter(({ planning }) => planning?.warning).length };
}

/** Whether a plan waits to be carried out: it changes something, and no later work has overtaken it. */
export function isReady({ planning, install, build }: Activity): boolean {
  if (planning?.state !== "done" || isGoingOn(install) || isGoingOn(build)) return false;
  return planning.is_current && planning.added + planning.replaced + planning.edited > 0;
}
