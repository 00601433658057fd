import { Alert, Button } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";

import { useChange } from "../../api/asking";
import { buildToTheEnd } from "../../api/builds";
import type { BuildRun, Check, Site } from "../../api/client";
import { useRefusal } from "../../api/me";
import { usePlanChoices } from "../../api/plans";
import { when } from "../../app/units";
import { pathOf } from "./Findings";
import styles from "./stillOld.module.css";
import shared from "./livecheck.module.css";

const OFTEN = "blink";

/** The complaint: until when others see the old icon, how to see the new one now, and how to have all browsers ask. */
export function StillOld({ site, check }: { site: Site; check: Check }) {
  const line = check.report?.time_line;
  const icon = line?.distinct[line.seen[0]?.[0] ?? 0]?.[OFTEN]?.address;
  return (
    <section id="still-old" className={shared.panel} aria-label="I still see the old icon">
      <h2>I still see the old icon</h2>
      <Certain check={check} />
      <ul className={styles.ways}>
        <li>
          <strong>See the new one now.</strong> Open{" "}
          <a href={site.address} target="_blank" rel="noreferrer">
            the site
          </a>{" "}
          in a private window, which has nothing cached
          {icon && (
            <>
              ; or open{" "}
              <a href={icon} target="_blank" rel="noreferrer">
                <code>{pathOf(icon)}</code>
              </a>{" "}
              itself and reload there
            </>
          )}
          . If that is the new one, only your own browser is behind.
        </li>
        <li>
          <strong>Make every browser ask again.</strong> <Stamp site={site} />
        </li>
      </ul>
    </section>
  );
}

/** Gives the addresses a mark of the content, builds and leads to the plan, in one press. */
function Stamp({ site }: { site: Site }) {
  const { choices, change: choose } = usePlanChoices(site.id);
  const refusal = useRefusal("edits");
  const navigate = useNavigate();
  const [run, setRun] = useState<BuildRun>();
  const change = useChange(async (siteId: number) => {
    choose(({ addresses }) => ({ addresses: { ...addresses, stamped: true } }));
    await buildToTheEnd(siteId, setRun);
  });
  if (!choices) return null;
  if (choices.addresses.stamped && !change.isPending && !change.error) {
    return (
      <>
        The set’s addresses change with its files, so a browser that fetches a page of the last build sees the
        new icon. <code>/favicon.ico</code> has no such mark: browsers ask for it by that name.
      </>
    );
  }
  return (
    <>
      The addresses in your pages stay the same when a file changes, so browsers may keep what they have.{" "}
      <Button
        size="small"
        loading={change.isPending}
        disabled={refusal !== undefined}
        title={refusal ?? ""}
        onClick={() =>
          change.mutate(site.id, { onSuccess: () => void navigate(`/sites/${site.id}/install`) })
        }
      >
        Change the addresses
      </Button>
      {change.isPending && run && (
        <span role="status" className="reading">
          {" "}
          {run.done} of {run.total} files
        </span>
      )}
      {change.error && <Alert type="error" showIcon title={change.error.message} />}
    </>
  );
}

/** From when on nobody's browser shows an earlier icon. */
function Certain({ check }: { check: Check }) {
  const { certain_from, changed } = check.report ?? {};
  if (!certain_from || !changed) return <p>As far as Bexi knows, these icons have not changed.</p>;
  const over = Date.parse(certain_from) <= Date.parse(check.summary.created);
  return (
    <p className={styles.certain} data-tone={over ? "good" : "caution"}>
      {over
        ? `All browsers show the icon of ${when(changed)} by now.`
        : `The icons changed ${when(changed)}. All browsers will show the new icons by ${when(certain_from)}.`}
      {!over && (
        <small>
          Browsers keep icons of an address they know, about a week in a store of their own (from memory) or
          as long as the server says.
        </small>
      )}
    </p>
  );
}
