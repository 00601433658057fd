import { Alert, Button, Input } from "antd";
import { type ReactNode, useState } from "react";

import { type Install, type InstalledFile, Problem, type Site } from "../../api/client";
import {
  type Given,
  isInstalling,
  useInstalledFiles,
  useHistory,
  useInstalls,
  usePutBack,
  useUndoInstall,
  useVersions,
} from "../../api/installs";
import { useMe, useRefusal } from "../../api/me";
import { when } from "../../app/units";
import { stateOf } from "./states";
import styles from "./history.module.css";

type Props = { site: Site; given: Given };

/** What was installed and undone, when and by whom; the latest can be taken back. */
export function History({ site, given }: Props) {
  const installs = useInstalls(site.id);
  const refusal = useRefusal("installs");
  const me = useMe().data;
  const standing = installs.data?.find((install) => install.state === "done" && install.undoes === null);
  const unfinished = installs.data?.find(
    (install) => install.state === "stuck" || (install.lost && !isInstalling(install)),
  );
  return (
    <section className={styles.history}>
      <h2>History</h2>
      {installs.data?.length === 0 && <p>Nothing has been installed here yet.</p>}
      {unfinished && <Unfinished install={unfinished} given={given} />}
      <ol>
        {installs.data?.map((install) => (
          <li key={install.id}>
            <div>
              <strong>Build {install.build_number}</strong> {stateOf(install)}
              <br />
              <span className="reading">
                {when(install.created)}
                {install.who && `, by ${install.who}`}
                {install.who && me?.has_account === false && ", whose account on this machine runs Bexi"}
              </span>
              <Files install={install} />
              {install.state === "put-back" && <p>{install.problem}</p>}
            </div>
            {!unfinished && !refusal && (install === standing || install.left.length > 0) && (
              <Undo install={install} given={given} />
            )}
          </li>
        ))}
      </ol>
      <Deeds site={site} />
    </section>
  );
}

/** Who changed the place, kept secrets and the like; the whole history can be taken along. */
function Deeds({ site }: { site: Site }) {
  const history = useHistory(site.id);
  const deeds = history.data?.filter(({ ended }) => !ended) ?? [];
  if (!history.data?.length) return null;
  return (
    <>
      {deeds.length > 0 && (
        <details className={styles.files}>
          <summary>Changes to the location, {deeds.length}</summary>
          <ul>
            {deeds.map(({ at, who, did, told }) => (
              <li key={at}>
                {who || "Somebody"} {did}: <code>{told}</code>
                <br />
                <span className="reading">{when(at)}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      <a href={`/api/sites/${site.id}/history.csv`} download>
        Export history (CSV)
      </a>
    </>
  );
}

/** What was done, file by file. */
function Files({ install: { id, total, place } }: { install: Install }) {
  const [open, setOpen] = useState(false);
  const files = useInstalledFiles(id, open);
  return (
    <details className={styles.files} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>{total === 1 ? "1 file" : `${total} files`}</summary>
      <code>{place}</code>
      <ul>
        {files.data?.map(({ path, kind }) => (
          <li key={path}>
            <code>{path}</code> {DONE[kind]}
          </li>
        ))}
      </ul>
    </details>
  );
}

const DONE: Record<InstalledFile["kind"], string> = {
  add: "new",
  replace: "replaced",
  edit: "edited",
  remove: "removed",
  same: "same already",
};

type InstallProps = { install: Install; given: Given };

function Unfinished({ install, given }: InstallProps) {
  const entered = useEnteredFor(install, given);
  const putBack = usePutBack(entered.given);
  return (
    <Alert
      type="warning"
      showIcon
      title={
        <>
          {putBack.error?.message ?? (install.problem || "An installation was interrupted.")}
          {install.again_at && ` Bexi tries again at ${when(install.again_at)}.`}
          {entered.field}
        </>
      }
      action={
        <Button loading={putBack.isPending} onClick={() => putBack.mutate(install.id)}>
          Put it back now
        </Button>
      }
    />
  );
}

/** What was entered for the place of an installation: where that is not the site's own any more, in a field of its own. */
function useEnteredFor({ place }: Install, given: Given): { given: Given; field: ReactNode } {
  const [secret, setSecret] = useState("");
  if (accountOf(place) === accountOf(given.place)) return { given, field: null };
  return {
    given: { secret, place },
    field: accountOf(place) && (
      <label>
        Password or key of {accountOf(place)}
        <Input.Password
          value={secret}
          autoComplete="off"
          onChange={(event) => setSecret(event.target.value)}
        />
      </label>
    ),
  };
}

/** The account that a place is reached by; empty for a folder on this machine. */
const accountOf = (place: string) => /^\w+:\/\/[^/]+/.exec(place)?.[0] ?? "";

function Undo({ install, given }: InstallProps) {
  const entered = useEnteredFor(install, given);
  const undo = useUndoInstall(entered.given);
  const [decided, setDecided] = useState({ over: [] as string[], leave: [] as string[] });
  const begin = (choices: typeof decided) => {
    setDecided(choices);
    undo.mutate({ id: install.id, ...choices });
  };
  const changed = undo.error instanceof Problem ? undo.error.path : undefined;
  return (
    <div className={styles.undo}>
      {entered.field}
      <Button loading={undo.isPending} onClick={() => begin(decided)}>
        {install.left.length > 0 ? "Undo the rest" : "Undo"}
      </Button>
      {undo.error && <Alert type="warning" showIcon title={undo.error.message} />}
      {changed && (
        <>
          <Versions install={install} path={changed} given={entered.given} />
          <Button onClick={() => begin({ ...decided, over: [...decided.over, changed] })}>
            Restore the old file
          </Button>
          <Button onClick={() => begin({ ...decided, leave: [...decided.leave, changed] })}>
            Keep it as it is now
          </Button>
        </>
      )}
    </div>
  );
}

/** A file before it was installed, as installed, and as somebody left it since. */
function Versions({ install, path, given }: InstallProps & { path: string }) {
  const versions = useVersions(install.id, path, given);
  const { before, installed, now } = versions.data ?? {};
  return (
    <dl className={styles.versions}>
      {(
        [
          ["Before", before],
          ["As installed", installed],
          ["Now", now],
        ] as const
      ).map(([label, text]) => (
        <div key={label}>
          <dt>{label}</dt>
          <dd>
            <pre tabIndex={0}>{text ?? "not text, or missing"}</pre>
          </dd>
        </div>
      ))}
    </dl>
  );
}
