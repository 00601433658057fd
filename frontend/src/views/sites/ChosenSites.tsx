import { useQueryClient } from "@tanstack/react-query";
import { Alert, Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";

import { Problem, type Site } from "../../api/client";
import { useRefusal } from "../../api/me";
import { atEach } from "../../api/several";
import { useChangeLabels, useRemoveSite, useRestoreSite } from "../../api/siteChanges";
import styles from "./chosenSites.module.css";

type Props = { sites: Site[]; done: () => void };

/** What can be done with the chosen sites. */
export function ChosenSites({ sites, done }: Props) {
  const refusal = useRefusal("edits");
  return (
    <section className={styles.chosen} aria-label="Chosen sites">
      {sites.length > 0 && (
        <>
          <strong>{sites.length === 1 ? "1 site chosen" : `${sites.length} sites chosen`}</strong>
          <Link to={`/several#${sites.map(({ id }) => id).join(",")}`} className={styles.work}>
            Build, check, install …
          </Link>
          {!refusal && <Labels sites={sites} />}
        </>
      )}
      <Button type="text" onClick={done}>
        {sites.length ? "Clear selection" : "Done"}
      </Button>
      {!refusal && (
        <div className={styles.apart}>
          <Remove sites={sites} />
        </div>
      )}
    </section>
  );
}

function Labels({ sites }: { sites: Site[] }) {
  const [label, setLabel] = useState("");
  const change = useChangeLabels();
  const word = label.trim();
  const all = sites.every((site) => site.labels.includes(word));
  return (
    <form
      className={styles.label}
      onSubmit={(event) => {
        event.preventDefault();
        if (word) change.mutate({ sites, label: word, on: !all }, { onSuccess: () => setLabel("") });
      }}
    >
      <Input
        aria-label="Label"
        placeholder="Label"
        maxLength={40}
        value={label}
        onChange={(event) => setLabel(event.target.value.replaceAll(",", ""))}
      />
      <Button htmlType="submit" disabled={!word} loading={change.isPending}>
        {word && all ? "Remove label" : "Add label"}
      </Button>
      {change.error && <Alert type="error" showIcon title={change.error.message} />}
    </form>
  );
}

/** Removes them; what stands installed somewhere is said first. */
function Remove({ sites }: { sites: Site[] }) {
  const remove = useRemoveSite();
  const restore = useRestoreSite();
  const queries = useQueryClient();
  const [said, setSaid] = useState<{ sentence: string; installed: boolean }>();
  const [removed, setRemoved] = useState<Site[]>([]);
  const removeAll = async (although: boolean) => {
    let installed: string | undefined;
    const gone: Site[] = [];
    const refused = await atEach(
      sites.map(({ id }) => id),
      async (id) => {
        try {
          await remove.mutateAsync({ id, although });
          gone.push(...sites.filter((site) => site.id === id));
        } catch (cause) {
          if (cause instanceof Problem && cause.code === "still-installed") installed ??= cause.message;
          throw cause;
        }
      },
    );
    setRemoved((before) => [...before, ...gone]);
    const sentence = installed ?? [...refused.values()][0];
    setSaid(sentence ? { sentence, installed: installed !== undefined } : undefined);
    await queries.invalidateQueries();
  };
  const bringBack = async () => {
    await atEach(
      removed.map(({ id }) => id),
      (id) => restore.mutateAsync(id),
    );
    setRemoved([]);
  };
  return (
    <>
      {sites.length > 0 && (
        <Button onClick={() => void removeAll(false)} loading={remove.isPending}>
          Remove
        </Button>
      )}
      {said && sites.length > 0 && (
        <Alert
          type="warning"
          showIcon
          title={said.sentence}
          action={said.installed && <Button onClick={() => void removeAll(true)}>Remove anyway</Button>}
        />
      )}
      {removed.length > 0 && (
        <>
          <span role="status">
            {removed.length === 1 ? "1 site removed" : `${removed.length} sites removed`}; nothing has been
            changed where they live.
          </span>
          <Button onClick={() => void bringBack()}>Restore</Button>
        </>
      )}
    </>
  );
}
