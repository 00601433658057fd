import { Alert, Button, Checkbox, Input } from "antd";
import { useState } from "react";

import { Problem, type Site } from "../../api/client";
import { useConnect } from "../../api/installs";
import { useRefusal } from "../../api/me";
import { useChangeSite, usePlaceKinds } from "../../api/siteChanges";
import { SiteForm } from "../sites/SiteForm";
import styles from "./place.module.css";

type Props = {
  site: Site;
  typed: string;
  setTyped: (typed: string) => void;
  /** What a connection worked with; undefined when it was refused. */
  tried: (secret: string | undefined) => void;
};

const WITHOUT_SERVER = {
  zip: "As a ZIP of the site: Bexi connects to no server, so it needs no password.",
  hand: "By hand: Bexi connects to no server, so it needs no password.",
} as const;

/** Site location, its secret, and what can be done there. */
export function Place({ site, typed, setTyped, tried }: Props) {
  const refusal = useRefusal("installs");
  const [changing, setChanging] = useState(site.place === "" && !site.without_server && !refusal);
  const change = useChangeSite(site.id);
  const kinds = usePlaceKinds();
  if (changing) {
    return (
      <section>
        <h2>Site location</h2>
        <SiteForm
          initial={site}
          action="Save"
          saving={change}
          save={(next) =>
            change.mutate(next, {
              onSuccess: () => setChanging(false),
            })
          }
        />
      </section>
    );
  }
  const kind = kinds.data?.find((one) => one.scheme === site.place_kind);
  return (
    <section className={styles.place}>
      <h2>Site location</h2>
      <p>
        {site.without_server
          ? WITHOUT_SERVER[site.without_server]
          : kind
            ? `${kind.told}:`
            : !site.place_kind && "Not set."}
        {site.place && (
          <>
            <br />
            <code>{site.place}</code>
          </>
        )}
      </p>
      {site.address && (
        <p>
          Visitors see it at{" "}
          <a href={site.address} target="_blank" rel="noreferrer">
            {site.address}
          </a>
        </p>
      )}
      {refusal ? (
        <p>{refusal}</p>
      ) : (
        <>
          {site.place && (
            <Connection
              site={site}
              remote={site.place_kind !== "folder"}
              typed={typed}
              setTyped={setTyped}
              tried={tried}
            />
          )}
          <Button onClick={() => setChanging(true)}>Change location</Button>
        </>
      )}
    </section>
  );
}

const CLEAR_TEXT = "clear-text";

/** A fingerprint in groups of four, to be compared with what the provider says. */
function Fingerprint({ of: fingerprint }: { of: string }) {
  const [, kind, digest] = /^(\w+):(.*)$/.exec(fingerprint) ?? [fingerprint, "", fingerprint];
  return (
    <code className={styles.fingerprint} aria-label={`Fingerprint ${fingerprint}`}>
      {kind && <span>{kind}:</span>}
      {digest.match(/.{1,4}/g)?.map((group, number) => (
        <span key={number}>{group}</span>
      ))}
    </code>
  );
}

function Connection({ site, remote, typed, setTyped, tried }: Props & { remote: boolean }) {
  const connect = useConnect(site.id);
  const [keep, setKeep] = useState(false);
  const unknown = connect.error instanceof Problem ? connect.error.fingerprint : undefined;
  const attempt = (trust = "") =>
    connect.mutate(
      { secret: typed, place: site.place, keep, trust },
      {
        onSuccess: ({ works }) => tried(works ? typed : undefined),
        onError: () => tried(undefined),
      },
    );
  return (
    <form
      className={styles.connection}
      onSubmit={(event) => {
        event.preventDefault();
        attempt();
      }}
    >
      {remote && (
        <>
          <label>
            Password, or a private key; leave empty to use the saved one
            <Input.Password
              value={typed}
              autoComplete="off"
              onChange={(event) => setTyped(event.target.value)}
            />
          </label>
          <Checkbox checked={keep} onChange={(event) => setKeep(event.target.checked)}>
            Save it, encrypted, on this machine
          </Checkbox>
        </>
      )}
      <Button htmlType="submit" loading={connect.isPending}>
        Test connection
      </Button>
      {connect.error && (
        <Alert
          type="warning"
          showIcon
          title={
            <div className={styles.asked}>
              {connect.error.message}
              {unknown && unknown !== CLEAR_TEXT && <Fingerprint of={unknown} />}
              {unknown && (
                <Button onClick={() => attempt(unknown)}>
                  {unknown === CLEAR_TEXT ? "Send it unencrypted" : "Trust this key"}
                </Button>
              )}
            </div>
          }
        />
      )}
      {connect.data && (
        <div role="status">
          <ul className={styles.trials}>
            {connect.data.trials.map(({ what, works, milliseconds, said }) => (
              <li key={what} data-tone={works ? "good" : "caution"}>
                {what}: {works ? "works" : said} <span className="reading">{milliseconds} ms</span>
              </li>
            ))}
            {connect.data.secret_kept && <li>The password is saved, encrypted.</li>}
          </ul>
        </div>
      )}
    </form>
  );
}
