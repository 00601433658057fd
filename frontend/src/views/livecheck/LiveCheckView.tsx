import { Alert, Button, Empty } from "antd";
import { Link } from "react-router";

import type { Check } from "../../api/client";
import { useCheck, useCheckSite } from "../../api/checks";
import { Loading } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useSite } from "../../app/SiteFrame";
import { when } from "../../app/units";
import styles from "./livecheck.module.css";

/** What visitors get now: each page and icon asked for at the site's own address. */
export function LiveCheckView() {
  const site = useSite();
  const check = useCheck(site.id);
  const run = useCheckSite(site.id);
  if (check.isPending) return <Loading what="Reading the last check" />;
  if (check.error) return <ProblemNotice problem={check.error} retry={() => void check.refetch()} />;
  const found = check.data;
  return (
    <main className={styles.view}>
      <div className={styles.head}>
        <div>
          <h1>{found ? verdict(found) : "Not checked yet"}</h1>
          <p>
            {found && `Looked at ${when(found.created)}, `}
            {site.address ? <code>{site.address}</code> : "no address known"}
          </p>
        </div>
        {site.address ? (
          <Button
            className="main-action"
            size="large"
            loading={run.isPending}
            onClick={() => run.mutate(undefined)}
          >
            {found ? "Check again" : "Check now"}
          </Button>
        ) : (
          <Link to={`/sites/${site.id}/install`}>
            <Button>Enter the address</Button>
          </Link>
        )}
      </div>
      {run.error && <Alert type="error" showIcon title={run.error.message} />}
      {found ? (
        <Findings check={found} siteId={site.id} />
      ) : (
        <Empty description="Bexi asks the site for its pages and icons as a visitor would, and says what it got." />
      )}
    </main>
  );
}

function verdict({ problem_count, findings }: Check): string {
  if (problem_count === 0) return `All ${findings.length} things looked at are well`;
  return problem_count === 1 ? "1 problem found" : `${problem_count} problems found`;
}

function Findings({ check, siteId }: { check: Check; siteId: number }) {
  const ordered = [...check.findings].sort((one, other) => Number(one.ok) - Number(other.ok));
  return (
    <ul className={styles.findings}>
      {ordered.map((finding) => (
        <li key={`${finding.what} ${finding.where}`} data-ok={finding.ok}>
          <span className={styles.sign} aria-label={finding.ok ? "well" : "problem"} role="img">
            {finding.ok ? "✓" : "!"}
          </span>
          <div>
            <strong>{finding.what}</strong> <code>{finding.where}</code>
            <p>{finding.evidence}</p>
            {finding.why && <p className={styles.why}>{finding.why}</p>}
            {finding.remedy && (
              <p>
                {finding.remedy} <Link to={`/sites/${siteId}/bench`}>Go to the bench</Link>
              </p>
            )}
          </div>
        </li>
      ))}
    </ul>
  );
}
