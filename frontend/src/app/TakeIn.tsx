import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import { useMatch, useNavigate } from "react-router";

import type { Artwork } from "../api/client";
import { takesText } from "./keys";
import { later } from "./later";
import styles from "./takeIn.module.css";
import { type Sending, TakingIn } from "./takingIn";

// What most visits do not need comes when it is needed.
const Matching = later(async () => (await import("./Matching")).Matching);
const OnItsWay = later(async () => (await import("./OnItsWay")).OnItsWay);

let sent = 0;

/** Lets pictures be dropped or pasted anywhere, and shows those on their way. */
export function TakeIn({ children }: { children: ReactNode }) {
  const siteId = useMatch("/sites/:siteId/*")?.params.siteId;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [matched, setMatched] = useState<Artwork[]>([]); // with sites
  const [sending, setSending] = useState<Sending[]>([]);

  const close = useCallback(
    (key: number) => setSending((all) => all.filter((one) => one.key !== key)),
    [setSending],
  );
  const send = useCallback(
    async (file: File): Promise<Artwork | undefined> => {
      const key = ++sent;
      const change = (part: Partial<Sending>) =>
        setSending((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)));
      setSending((all) => [...all, { key, name: file.name, share: 0 }]);
      try {
        const { sendPicture } = await import("../api/upload");
        const artwork = await sendPicture("/api/artwork", file, (share) => change({ share }));
        close(key);
        await queries.invalidateQueries({ queryKey: ["shelf"] });
        return artwork;
      } catch (problem) {
        change({ problem: (problem as Error).message });
        return undefined;
      }
    },
    [close, queries],
  );
  const begin = useCallback(
    async (artwork: Artwork) => {
      try {
        const { beginWith } = await import("../api/beginnings");
        const { id } = await beginWith(artwork.id);
        void queries.invalidateQueries({ queryKey: ["beginnings"] });
        void navigate(`/?begun=${id}`);
      } catch (problem) {
        const told = { key: ++sent, name: artwork.title, share: 1, problem: (problem as Error).message };
        setSending((all) => [...all, told]);
      }
    },
    [navigate, queries],
  );
  const take = useCallback(
    async (files: Iterable<File>) => {
      setSending((all) => all.filter((one) => !one.problem));
      const taken = (await Promise.all([...files].map(send))).filter((one) => one !== undefined);
      const [last] = taken.slice(-1);
      if (!last) return;
      if (siteId) void navigate(`/sites/${siteId}/artwork?piece=${last.id}`);
      else if (taken.length > 1) setMatched((others) => [...others, ...taken]);
      else await begin(last);
    },
    [begin, navigate, send, siteId],
  );
  const over = useDropAnywhere(take);
  return (
    <TakingIn value={take}>
      {children}
      {matched.length > 0 && <Matching artworks={matched} close={() => setMatched([])} />}
      {over && <div className={styles.dropHere}>Drop to add as artwork</div>}
      {sending.length > 0 && (
        <div className={styles.tray} role="status">
          {sending.map((one) => (
            <OnItsWay key={one.key} one={one} close={() => close(one.key)} />
          ))}
        </div>
      )}
    </TakingIn>
  );
}

/** Hears files dropped on or pasted into the window; tells whether some are held over it. */
function useDropAnywhere(take: (files: Iterable<File>) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const onDragOver = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const onDragLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setOver(false);
      take(event.dataTransfer?.files ?? []);
    };
    const onPaste = (event: ClipboardEvent) => {
      const { files, types } = event.clipboardData ?? {};
      // Text from a word processor brings a picture of itself along.
      const isText = takesText(event.target) && types?.includes("text/plain");
      if (files?.length && !isText) take(files);
    };
    addEventListener("dragover", onDragOver);
    addEventListener("dragleave", onDragLeave);
    addEventListener("drop", onDrop);
    addEventListener("paste", onPaste);
    return () => {
      removeEventListener("dragover", onDragOver);
      removeEventListener("dragleave", onDragLeave);
      removeEventListener("drop", onDrop);
      removeEventListener("paste", onPaste);
    };
  }, [take]);
  return over;
}
