import { takesText } from "./keys";

/** Hears files dropped on or pasted into the window; returns what ends that. */
export function hearDrops(
  take: (files: Iterable<File>) => void,
  setOver: (over: boolean) => void,
): () => void {
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
}
