import { Button, Input, Segmented } from "antd";
import { type ChangeEvent, useState } from "react";

import type { PlaceKind } from "../../api/client";
import { useFolders, usePlaceKinds } from "../../api/siteChanges";
import { type Kind, NOWHERE, type Parts, partsOf, partsOfWhere, type Where, whereOf } from "./place";
import styles from "./placeField.module.css";

type Props = { value?: Where; onChange?: (where: Where) => void };

/** What comes of the kinds that need no place: Bexi reaches nothing then. */
const WITHOUT_A_PLACE: Partial<Record<Kind, string>> = {
  zip: "Nothing to fill in, no password. On the Install view, give Bexi a ZIP of the site: it comes back with icons and lines in it, for you to upload.",
  hand: "Nothing to fill in, no password. The Install view then gives the files and the lines, and says step by step what to do with them.",
};

/** Where a site's files live: its kind first, then its few fields. A pasted address fills them. */
export function PlaceField(props: Props) {
  const kinds = usePlaceKinds();
  if (kinds.data) return <Fields {...props} kinds={kinds.data} />;
  return kinds.error && <p data-tone="caution">{kinds.error.message}</p>;
}

function Fields({ value = NOWHERE, onChange, kinds }: Props & { kinds: PlaceKind[] }) {
  const [parts, setParts] = useState(() => partsOfWhere(value, kinds));
  const chosen = kinds.find((one) => one.scheme === parts.kind);
  const set = (part: Partial<Parts>) => {
    const next = { ...parts, ...part };
    setParts(next);
    onChange?.(whereOf(next));
  };
  /** A whole address fills the fields, once it is there: when it was pasted, or when the field is left. */
  const take = (text: string) => {
    const read = partsOf(text, kinds);
    if (read.kind !== "folder") set(read);
  };
  const typed = (event: ChangeEvent<HTMLInputElement>, name: "host" | "folder") => {
    const text = event.target.value;
    set({ [name]: text });
    if ((event.nativeEvent as InputEvent).inputType !== "insertText") take(text);
  };
  return (
    <div className={styles.place}>
      <Segmented
        aria-label="How its files are reached"
        value={parts.kind}
        options={[
          ...kinds.map(({ scheme, label }) => ({ value: scheme as Kind, label })),
          { value: "zip" as Kind, label: "ZIP" },
          { value: "hand" as Kind, label: "By hand" },
        ]}
        onChange={(kind) => set({ kind })}
      />
      {WITHOUT_A_PLACE[parts.kind] ? null : parts.kind === "folder" ? (
        <Folder
          value={parts.folder}
          set={(folder) => set({ folder })}
          typed={(event) => typed(event, "folder")}
          left={() => take(parts.folder)}
        />
      ) : (
        <div className={styles.account}>
          <label>
            Host, or a whole address
            <Input
              value={parts.host}
              placeholder="files.example"
              spellCheck={false}
              onChange={(event) => typed(event, "host")}
              onBlur={() => take(parts.host)}
            />
          </label>
          <label>
            Port
            <Input
              value={parts.port}
              inputMode="numeric"
              placeholder={String(chosen?.port ?? "")}
              onChange={(event) => set({ port: event.target.value.replace(/\D/g, "").slice(0, 5) })}
            />
          </label>
          <label>
            User
            <Input
              value={parts.user}
              placeholder="harbour"
              autoComplete="off"
              spellCheck={false}
              onChange={(event) => set({ user: event.target.value })}
            />
          </label>
          <label>
            Top folder there
            <Input
              value={parts.folder}
              placeholder="/www"
              spellCheck={false}
              onChange={(event) => set({ folder: event.target.value })}
            />
          </label>
        </div>
      )}
      <p>
        {WITHOUT_A_PLACE[parts.kind] ?? (
          <>
            {chosen && chosen.port > 0 && `${chosen.told}. Its password is asked for when it is needed. `}
            The top folder is the one whose files are served at /.
          </>
        )}
      </p>
    </div>
  );
}

type FolderProps = {
  value: string;
  set: (folder: string) => void;
  typed: (event: ChangeEvent<HTMLInputElement>) => void;
  left: () => void;
};

/** A folder of this machine, typed or chosen step by step. */
function Folder({ value, set, typed, left }: FolderProps) {
  const [open, setOpen] = useState(false);
  const folders = useFolders(value, open);
  return (
    <>
      <div className={styles.withButton}>
        <Input
          aria-label="Folder"
          value={value}
          placeholder="/srv/www/merrowmouth"
          spellCheck={false}
          onChange={typed}
          onBlur={left}
        />
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          Choose
        </Button>
      </div>
      {open && (
        <div className={styles.folders}>
          {folders.error && <p data-tone="caution">{folders.error.message}</p>}
          {folders.data && (
            <>
              <code>{folders.data.path}</code>
              <div>
                {folders.data.parent && (
                  <Button size="small" onClick={() => set(folders.data.parent ?? "")}>
                    One up
                  </Button>
                )}
                {folders.data.folders.map((name) => (
                  <Button
                    key={name}
                    size="small"
                    onClick={() => set(`${folders.data.path.replace(/\/$/, "")}/${name}`)}
                  >
                    {name}
                  </Button>
                ))}
              </div>
              <Button
                onClick={() => {
                  set(folders.data.path);
                  setOpen(false);
                }}
              >
                Take this folder
              </Button>
            </>
          )}
        </div>
      )}
    </>
  );
}
