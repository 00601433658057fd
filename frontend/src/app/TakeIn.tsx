import { useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense, useCallback, useEffect, useState } from "react";
import { useMatch, useNavigate } from "react-router";

import type { Artwork } from "../api/client";
import styles from "./takeIn.module.css";
import { type Sending, TakingIn } from "./takingIn";

// What most visits do not need comes when it is needed.
const NameSite = lazy(async () => ({ default: (await import("./NameSite")).NameSite }));
const OnItsWay = lazy(async () => ({ default: (await import("./OnItsWay")).OnItsWay }));

let sent = 0;

/** Lets pictures be dropped or pasted anywhere, and shows those on their way. */
export function TakeIn({ children }: { children: ReactNode }) {
  const siteId = useMatch("/sites/:siteId/*")?.params.siteId;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [homeless, setHomeless] = useState<Artwork>();
  const [sending, setSending] = useState<Sending[]>([]);

  const close = useCallback(
    (key: number) => setSending((all) => all.filter((one) => one.key !== key)),
    [setSending],
  );
  const send = useCallback(
    async (file: File) => {
      const key = ++sent;
      const change = (part: Partial<Sending>) =>
        setSending((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)));
      setSending((all) => [...all, { key, name: file.name, share: 0 }]);
      try {
        const { sendPicture } = await import("../api/upload");
        const artwork = await sendPicture("/api/artwork", file, (share) => change({ share }));
        close(key);
        await queries.invalidateQueries({ queryKey: ["shelf"] });
        if (siteId) void navigate(`/sites/${siteId}/artwork?piece=${artwork.id}`);
        else setHomeless(artwork);
      } catch (problem) {
        change({ problem: (problem as Error).message });
      }
    },
    [close, navigate, queries, siteId],
  );
  const take = useCallback(
    (files: Iterable<File>) => {
      setSending((all) => all.filter((one) => !one.problem));
      for (const file of files) void send(file);
    },
    [send],
  );
  const over = useDropAnywhere(take);
  return (
    <TakingIn value={take}>
      {children}
      <Suspense>{homeless && <NameSite artwork={homeless} close={() => setHomeless(undefined)} />}</Suspense>
      {over && <div className={styles.dropHere}>Drop to take in as artwork</div>}
      {sending.length > 0 && (
        <div className={styles.tray} role="status">
          <Suspense>
            {sending.map((one) => (
              <OnItsWay key={one.key} one={one} close={() => close(one.key)} />
            ))}
          </Suspense>
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
      const files = event.clipboardData?.files;
      if (files?.length) take(files);
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
