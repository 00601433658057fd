import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Alert, Button, Input, Select } from "antd";
import { useState } from "react";
import { useLocation, useNavigate } from "react-router";

import { answer, client, type Draft, type Site } from "../../api/client";
import { useDrafts } from "../../api/drafts";
import { allSaved, NOT_SAVED } from "../../api/saving";
import styles from "./controls.module.css";

type Naming = { for: "copy" | "this"; name: string };

/** Which of the site's drafts is on the bench; it can be copied and named. */
export function Drafts({ site, draft }: { site: Site; draft: Draft }) {
  const drafts = useDrafts(site.id);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [naming, setNaming] = useState<Naming>();
  const change = useMutation({
    mutationFn: async (request: () => Promise<Draft>) => {
      if (!(await allSaved())) throw new Error(NOT_SAVED); // it belongs to the draft it was changed in
      return request();
    },
    onSuccess: async (stored) => {
      queries.setQueryData(["draft-by-id", stored.id], stored);
      setNaming(undefined);
      await queries.invalidateQueries();
      if (stored.id !== draft.id) void navigate(`/sites/${site.id}/bench/${stored.id}`);
    },
  });
  const latest = () => queries.getQueryData<Draft>(["draft-by-id", draft.id]) ?? draft;
  const path = (draftId: number) => ({ params: { path: { draft_id: draftId } } });
  const remove = useMutation({
    mutationFn: () => answer(client.DELETE("/api/drafts/{draft_id}", path(draft.id))),
    onSuccess: async () => {
      const { id, name } = draft;
      const next = drafts.data?.find((other) => other.id !== id);
      void navigate(`/sites/${site.id}/bench/${next?.id ?? ""}`, { state: { removed: { id, name } } });
      await queries.invalidateQueries();
    },
  });
  const removed = (useLocation().state as { removed?: { id: number; name: string } } | null)?.removed;
  const keepName = ({ for: which, name }: Naming) =>
    change.mutate(() =>
      which === "copy"
        ? answer(
            client.POST("/api/drafts/{draft_id}/duplicate", {
              ...path(draft.id),
              body: { name, revision: latest().revision },
            }),
          )
        : answer(client.PUT("/api/drafts/{draft_id}/name", { ...path(draft.id), body: { name } })),
    );
  return (
    <div className={styles.drafts}>
      <Select
        size="small"
        aria-label="Draft on the bench"
        value={draft.id}
        options={(drafts.data ?? [draft]).map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(id) => change.mutate(() => answer(client.POST("/api/drafts/{draft_id}/choose", path(id))))}
      />
      <Button size="small" onClick={() => setNaming({ for: "copy", name: `${draft.name}, copy` })}>
        Copy
      </Button>
      <Button size="small" onClick={() => setNaming({ for: "this", name: draft.name })}>
        Rename
      </Button>
      {(drafts.data?.length ?? 0) > 1 && (
        <Button size="small" loading={remove.isPending} onClick={() => remove.mutate()}>
          Remove
        </Button>
      )}
      {removed && (
        <span role="status" className={styles.removed}>
          {`“${removed.name}” is removed.`}
          <Button
            size="small"
            onClick={() =>
              change.mutate(() => answer(client.POST("/api/drafts/{draft_id}/restore", path(removed.id))))
            }
          >
            Restore
          </Button>
        </span>
      )}
      {naming && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            keepName(naming);
          }}
        >
          <Input
            size="small"
            autoFocus
            aria-label={naming.for === "copy" ? "Name of the copy" : "Name of the draft"}
            maxLength={60}
            value={naming.name}
            onChange={(event) => setNaming({ ...naming, name: event.target.value })}
          />
          <Button size="small" htmlType="submit" type="primary" loading={change.isPending}>
            {naming.for === "copy" ? "Copy it" : "Rename it"}
          </Button>
          <Button size="small" onClick={() => setNaming(undefined)}>
            Cancel
          </Button>
        </form>
      )}
      {(change.error ?? remove.error) && (
        <Alert type="error" title={(change.error ?? remove.error)?.message} />
      )}
    </div>
  );
}
