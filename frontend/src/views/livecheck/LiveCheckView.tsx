import { Alert, Button, Empty } from "antd";
import { Link, useSearchParams } from "react-router";

import { isLooking, troubleOf, useCheck, useChecks, useOrderCheck } from "../../api/checks";
import type { Check, CheckSummary, Site } from "../../api/client";
import { useRefusal } from "../../api/me";
import { LoadingView } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useOutcome } from "../../app/telling";
import { useSite } from "../../app/SiteFrame";
import { when } from "../../app/units";
import { EarlierChecks } from "./EarlierChecks";
import { Findings } from "./Findings";
import styles from "./liveCheckView.module.css";
import shared from "./livecheck.module.css";
import { Looking } from "./Looking";
import { NotLookedAt } from "./NotLookedAt";
import { ServerLines } from "./ServerLines";
import { StillOld } from "./StillOld";
import { Visitors } from "./Visitors";
import { Watching } from "./Watching";

const OUTDATED = "Not checked since the last change";

/** What each visitor gets now and until when, what is wrong with it, and what mends it. */
export function LiveCheckView() {
  const site = useSite();
  const checks = useChecks(site.id);
  const [search] = useSearchParams();
  const chosen = checks.data?.find(({ id }) => String(id) === search.get("check"));
  const lastDone = checks.data?.find(({ state }) => state === "done");
  const check = useCheck((chosen ?? lastDone)?.id);
  const newest = checks.data?.[0];
  useOutcome(checks.data && standingOf(newest, check.data));
  if (checks.isPending || check.isLoading) return <LoadingView what="Reading the last check" />;
  const failed = checks.data ? !check.data && check.error : checks.error;
  if (failed)
    return <ProblemNotice problem={failed} retry={() => void (checks.data ? check : checks).refetch()} />;
  const latest = checks.data?.[0];
  const seen = check.data?.summary.id;
  return (
    <main className={styles.view}>
      <Head site={site} latest={latest} check={check.data} isLatest={seen === lastDone?.id} />
      {check.data?.report ? (
        <>
          <News check={check.data} />
          <div className={styles.columns}>
            <div className={styles.main}>
              <Findings report={check.data.report} site={site} />
              {check.data.report.time_line && (
                <Visitors site={site} check={check.data} line={check.data.report.time_line} />
              )}
              {site.installed_build_id !== null && <StillOld site={site} check={check.data} />}
              <NotLookedAt report={check.data.report} />
            </div>
            <aside className={styles.side} aria-label="Checks and servers">
              <EarlierChecks checks={checks.data ?? []} shown={seen} />
              <Watching site={site} />
              <ServerLines site={site} />
            </aside>
          </div>
        </>
      ) : (
        <Empty description="Bexi asks the site for its pages and icons as a visitor would, shows what each visitor gets, and says until when." />
      )}
    </main>
  );
}

type HeadProps = {
  site: Site;
  latest: CheckSummary | undefined;
  check: Check | undefined;
  isLatest: boolean;
};

function Head({ site, latest, check, isLatest }: HeadProps) {
  const order = useOrderCheck(site.id);
  const refusal = useRefusal("checks");
  // Only checks after the last change count for the site's state.
  const isOutdated = isLatest && site.state === "installed";
  const trouble = latest && !isLooking(latest) ? troubleOf(latest) : "";
  return (
    <>
      <div className={styles.head}>
        <div>
          <h1>{check?.report ? (isOutdated ? OUTDATED : verdict(check)) : "Not checked yet"}</h1>
          <p>
            {check && `${isLatest ? "Checked" : "Earlier check,"} ${when(check.summary.created)}, `}
            {site.address ? <code>{check?.report?.address || site.address}</code> : "no address known"}
          </p>
        </div>
        {latest && isLooking(latest) ? (
          <Looking check={latest} />
        ) : site.address ? (
          <Button
            className="main-action"
            size="large"
            loading={order.isPending}
            disabled={refusal !== undefined}
            title={refusal ?? ""}
            onClick={() => order.mutate(undefined)}
          >
            {check ? "Check again" : "Check now"}
          </Button>
        ) : (
          <Link to={`/sites/${site.id}/install`} className={shared.action}>
            Enter the address
          </Link>
        )}
      </div>
      {order.error && <Alert type="error" showIcon title={order.error.message} />}
      {trouble && (
        <Alert type={latest?.state === "stopped" ? "info" : "error"} showIcon title={trouble} closable />
      )}
    </>
  );
}

/** How the latest check stands; not known until what it found is there. */
function standingOf(latest: CheckSummary | undefined, check: Check | undefined) {
  if (!latest) return { key: "none", told: "" };
  const key = `${latest.id} ${latest.state}`;
  if (isLooking(latest)) return { key, told: "" };
  const trouble = troubleOf(latest);
  if (trouble) return { key, told: trouble };
  return check?.summary.id === latest.id ? { key, told: `Checked. ${verdict(check)}.` } : undefined;
}

function verdict({ summary, report }: Check): string {
  const advice = report?.findings.filter(({ wrong }) => !wrong).length ?? 0;
  const besides = advice ? `, ${advice === 1 ? "1 suggestion" : `${advice} suggestions`}` : "";
  if (!summary.problem_count) return `No problems found${besides}`;
  return `${summary.problem_count === 1 ? "1 problem" : `${summary.problem_count} problems`}${besides}`;
}

/** What changed since the check before. */
function News({ check }: { check: Check }) {
  if (!check.news.length || !check.since) return null;
  return (
    <section className={styles.news} aria-label="Since the check before">
      <h2>Since {when(check.since)}</h2>
      <ul>
        {check.news.map(({ what, where, better }) => (
          <li key={`${what} ${String(better)}`} data-tone={better ? "good" : "bad"}>
            {better ? "Gone" : "New"}: {what.charAt(0).toLowerCase() + what.slice(1)},{" "}
            {where.length === 1 ? "1 place" : `${where.length} places`}
          </li>
        ))}
      </ul>
    </section>
  );
}
