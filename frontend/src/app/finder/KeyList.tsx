import { Dialog } from "../Dialog";

const KEYS: [string, string][] = [
  ["Arrows", "move the frame by 1 px, with Shift by 10"],
  ["Alt + arrows", "change its side"],
  ["Alt while dragging", "the frame does not snap to edges and centres"],
  ["[ and ]", "previous and next size"],
  ["G", "switch the ladder between light and dark"],
  ["\\ held", "compare with what is installed"],
  ["P held", "see small icons plain, not by hand"],
  ["+, −, 0 on the frame", "zoom in, out, fit"],
  ["Wheel", "pans the stage, with Ctrl or ⌘ zooms"],
  ["Ctrl or ⌘ Z", "undo, with Shift do again"],
  ["Ctrl or ⌘ Enter", "build the set"],
  ["Ctrl or ⌘ K", "find any action, site, artwork or word"],
  ["?", "this list"],
];

/** Every key, and the way to the documentation. */
export function KeyList({ close }: { close: () => void }) {
  return (
    <Dialog title="Keys" close={close}>
      <dl style={{ display: "grid", gridTemplateColumns: "auto 1fr", gap: "6px 20px", margin: 0 }}>
        {KEYS.flatMap(([key, use]) => [
          <dt key={key} className="reading">
            {key}
          </dt>,
          <dd key={use} style={{ margin: 0 }}>
            {use}
          </dd>,
        ])}
      </dl>
      <p>
        <a href="/docs/index.html" target="_blank" rel="noreferrer" style={{ textDecoration: "underline" }}>
          How Bexi works
        </a>
      </p>
    </Dialog>
  );
}
