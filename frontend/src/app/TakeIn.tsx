import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import { useMatch, useNavigate } from "react-router";

import type { Artwork } from "../api/client";
import { takesText } from "./keys";
import { later, NOT_FETCHED } from "./later";
import styles from "./takeIn.module.css";
import { type Sending, TakingIn } from "./takingIn";

// What most visits do not need comes when it is needed.
const Matching = later(async () => (await import("./Matching")).Matching);
const OnItsWay = later(async () => (await import("./OnItsWay")).OnItsWay);

/** Lets pictures be dropped or pasted anywhere, and shows those on their way. */
export function TakeIn({ children }: { children: ReactNode }) {
  const siteId = useMatch("/sites/:siteId/*")?.params.siteId;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [matched, setMatched] = useState<Artwork[]>([]); // with sites
  const [sending, setSending] = useState<Sending[]>([]);

  const take = useCallback(
    async (dropped: Iterable<File>) => {
      const files = [...dropped]; // a list of them empties itself
      setSending((all) => all.filter((one) => !one.problem));
      try {
        const { bringIn } = await import("./bringIn");
        await bringIn(files, { siteId, show: setSending, match: setMatched, queries, navigate });
      } catch {
        setSending(files.map(({ name }, key) => ({ key: -key, name, share: 0, problem: NOT_FETCHED })));
      }
    },
    [navigate, queries, siteId],
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
            <OnItsWay
              key={one.key}
              one={one}
              close={() => setSending((all) => all.filter(({ key }) => key !== one.key))}
            />
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
    const hearing = new AbortController();
    const { signal } = hearing;
    addEventListener("dragover", onDragOver, { signal });
    addEventListener("dragleave", onDragLeave, { signal });
    addEventListener("drop", onDrop, { signal });
    addEventListener("paste", onPaste, { signal });
    return () => hearing.abort();
  }, [take]);
  return over;
}
