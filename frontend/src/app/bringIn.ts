/** Sends pictures to the server, and begins with one that no site is open for. */

import type { QueryClient } from "@tanstack/react-query";

import { beginWith } from "../api/beginnings";
import type { Artwork } from "../api/client";
import { beginJudging } from "../api/judging";
import { sendPicture } from "../api/upload";
import type { Sending } from "./takingIn";

/** Changes what is shown of the pictures on their way. */
type Show = (update: (all: Sending[]) => Sending[]) => void;

let sent = 0;

type Way = {
  siteId: string | undefined;
  show: Show;
  /** Asks which of several pictures is for which site. */
  match: (update: (others: Artwork[]) => Artwork[]) => void;
  queries: QueryClient;
  navigate: (path: string) => unknown;
};

/** Send files side by side, then go on with those that got there: on the site that is open, else without one. */
export async function bringIn(files: File[], { siteId, show, match, queries, navigate }: Way): Promise<void> {
  const sending = await Promise.all(files.map((file) => send(file, show)));
  const taken = sending.filter((one) => one !== undefined);
  void queries.invalidateQueries({ queryKey: ["shelf"] });
  const last = taken.at(-1);
  if (!last) return;
  if (siteId) navigate(`/sites/${siteId}/artwork?piece=${last.id}`);
  else if (taken.length > 1) match((others) => [...others, ...taken]);
  else {
    const begun = await begin(last, show);
    void queries.invalidateQueries({ queryKey: ["beginnings"] });
    if (!begun) return;
    beginJudging(queries, begun, last); // before the view is there that shows it
    navigate(`/?begun=${begun}`);
  }
}

async function send(file: File, show: Show): Promise<Artwork | undefined> {
  const key = ++sent;
  const change = (part: Partial<Sending>) =>
    show((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)));
  show((all) => [...all, { key, name: file.name, share: 0 }]);
  try {
    const artwork = await sendPicture("/api/artwork", file, (share) => change({ share }));
    show((all) => all.filter((one) => one.key !== key));
    return artwork;
  } catch (problem) {
    change({ problem: (problem as Error).message });
    return undefined;
  }
}

/** Begin with a picture; the number of what was begun, or nothing when that is refused, which is shown. */
async function begin({ id, title }: Artwork, show: Show): Promise<number | undefined> {
  try {
    return (await beginWith(id)).id;
  } catch (problem) {
    show((all) => [...all, { key: ++sent, name: title, share: 1, problem: (problem as Error).message }]);
    return undefined;
  }
}
