import { Alert, App, Button, Checkbox, Empty, Input } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";

import type { Install, Site } from "../../api/client";
import { type Given, isInstalling, useInstall, useInstalls } from "../../api/installs";
import { useRefusal } from "../../api/me";
import { useChangeSite } from "../../api/siteChanges";
import { isPlanning, type PlanQuestion, usePlanning } from "../../api/plannings";
import { useArriving } from "../../app/arriving";
import { useOutcome } from "../../app/telling";
import { useSite } from "../../app/SiteFrame";
import { SiteForm } from "../sites/SiteForm";
import { ByHand } from "./ByHand";
import { History } from "./History";
import styles from "./installView.module.css";
import shared from "./install.module.css";
import { Leftovers } from "./Leftovers";
import { OldAndNew } from "./OldAndNew";
import { Place } from "./Place";
import { Plan } from "./Plan";
import { Reading } from "./Reading";
import { ThereAlready } from "./ThereAlready";
import { UnderWay } from "./UnderWay";
import { UntilWhen } from "./UntilWhen";
import { LinkButton } from "../../app/LinkButton";

const ALL_PAGES = "*";
const STOPPED = "You stopped the planning. Nothing has been changed.";
const LOST = "The program that plans in the background has stopped. Start Bexi again, then plan again.";

/** Site location, exactly what will happen, how far it is, and what was done before. */
export function InstallView() {
  const site = useSite();
  const [typed, setTyped] = useState("");
  const [attempt, setAttempt] = useState<Attempt>();
  const installs = useInstalls(site.id);
  const running = installs.data?.find(isInstalling);
  const refusal = useRefusal("installs");
  const { message } = App.useApp();
  const last = installs.data?.[0];
  useOutcome(
    installs.data && { key: last ? `${last.id} ${last.state}` : "none", told: last ? outcomeOf(last) : "" },
    (told) => void (last?.state === "done" ? message.success(told) : message.warning(told, 8)),
  );
  useArriving(site.place);
  const remote = site.place_kind !== null && site.place_kind !== "folder";
  const asked = site.has_build && !site.place && !site.without_server && !refusal;
  const at = attempt?.place === site.place ? attempt : undefined;
  return (
    <main className={styles.view}>
      {running ? (
        <UnderWay install={running} />
      ) : (
        <PlanSection
          key={site.place}
          site={site}
          attempt={at ?? { number: 0, secret: "", place: site.place }}
          ready={!remote || at !== undefined}
          last={last}
        />
      )}
      <aside className={styles.side} aria-label="Location and history">
        {!asked && (
          <Place
            key={site.place}
            site={site}
            typed={typed}
            setTyped={setTyped}
            tried={(secret) =>
              setAttempt(
                secret === undefined
                  ? undefined
                  : (before) => ({ number: (before?.number ?? 0) + 1, secret, place: site.place }),
              )
            }
          />
        )}
        {!asked && !site.without_server && <ByHand site={site} />}
        <History site={site} given={{ secret: typed, place: site.place }} />
      </aside>
    </main>
  );
}

type NothingProps = { site: Site; description: string; children?: ReactNode };

/** A press of "Test connection" that worked, and what was given with it. */
type Attempt = Given & { number: number };

type Props = { site: Site; attempt: Attempt; ready: boolean; last: Install | undefined };

function PlanSection({ site, attempt, ready, last }: Props) {
  const [pages, setPages] = useState(ALL_PAGES);
  const [rules, setRules] = useState(false);
  const refusal = useRefusal("installs");
  const question: PlanQuestion = { pages, rules };
  const given = { secret: attempt.secret, place: attempt.place };
  const { planning, error, again } = usePlanning(
    site.id,
    question,
    given,
    attempt.number,
    ready && site.place !== "" && site.has_build && !refusal,
  );
  const install = useInstall(site.id);
  const change = useChangeSite(site.id);
  const [removes, setRemoves] = useState<ReadonlySet<string>>(new Set());
  useOutcome(
    planning && {
      key: `${planning.id} ${planning.state}`,
      told: planning.plan ? `The plan is ready: ${filesChange(planning.plan.changes)}.` : "",
    },
    undefined,
    "not ordered",
  );
  if (!site.has_build) {
    return (
      <Nothing site={site} description="Nothing is built for this site yet. Build the set first.">
        <LinkButton to={`/sites/${site.id}/bench`} type="primary">
          Go to the bench
        </LinkButton>
      </Nothing>
    );
  }
  if (site.without_server) {
    return (
      <section className={shared.plan} aria-label="Install plan">
        <h1>{site.without_server === "zip" ? "Install with a ZIP of the site" : "Install by hand"}</h1>
        <ByHand site={site} />
      </section>
    );
  }
  if (refusal) return <Nothing site={site} description={refusal} />;
  if (!site.place) {
    return (
      <section className={`${shared.plan} ${styles.asked}`} aria-label="Site location">
        <h1>Where are this site’s files?</h1>
        <p>Bexi then shows what it would change there. Nothing is changed before you press Install.</p>
        <SiteForm
          initial={site}
          action="Save"
          saving={change}
          save={(next) => change.mutate(next)}
          whereNow
        />
        <ByHand site={site} />
      </section>
    );
  }
  if (!ready) {
    return (
      <Nothing
        site={site}
        description="Enter the password or key on the right and test the connection. Bexi then makes the plan."
      />
    );
  }
  if (error || (planning && !planning.plan && !isPlanning(planning))) {
    return (
      <div className={shared.plan}>
        <Alert
          type={planning?.state === "stopped" ? "info" : "error"}
          showIcon
          title={error?.message || planning?.problem || (planning?.state === "stopped" ? STOPPED : LOST)}
          action={<Button onClick={again}>Plan again</Button>}
        />
      </div>
    );
  }
  if (!planning?.plan) return <Reading planning={planning} />;
  const { id, build_number, plan } = planning;
  const going = plan.leftovers.filter(({ path }) => removes.has(path)).map(({ path }) => path);
  const changes = plan.changes + going.length;
  const begin = () => install.mutate({ planning_id: id, ...given, removes: going });
  return (
    <section className={shared.plan} aria-label="Install plan">
      <div className={styles.planHead}>
        <div>
          <h1>{changes ? `Install build ${build_number}` : `Build ${build_number} is in place`}</h1>
          <p>
            {changes
              ? `${filesChange(changes)}; a copy of each is kept. Nothing has been changed yet.`
              : "Every file and page already matches this build."}
            {site.state === "draft" &&
              " The draft on the bench has changed since; build the set to include that."}
          </p>
        </div>
        {changes > 0 ? (
          <Button className="main-action" size="large" loading={install.isPending} onClick={begin}>
            {changes === 1 ? "Install 1 change" : `Install ${changes} changes`}
          </Button>
        ) : (
          <Link to={`/sites/${site.id}/live-check`} className={styles.next}>
            Check what visitors get
          </Link>
        )}
      </div>
      {install.error && <Alert type="error" showIcon title={install.error.message} />}
      {last?.state === "put-back" && <Alert type="warning" showIcon closable title={last.problem} />}
      {changes > 0 && <UntilWhen seconds={plan.old_seconds ?? null} siteId={site.id} />}
      {plan.warning && <Alert type="warning" showIcon title={plan.warning} />}
      {changes > 0 && <OldAndNew planning={planning} site={site} />}
      <Leftovers steps={plan.leftovers} chosen={removes} choose={setRemoves} />
      <ThereAlready found={plan.found} />
      <Pages pages={pages} set={setPages} />
      <Checkbox checked={rules} onChange={(event) => setRules(event.target.checked)}>
        If the site has a <code>.htaccess</code>, add the icons' content types and caching to it
      </Checkbox>
      <Plan plan={plan} planningId={id} given={given} />
    </section>
  );
}

function outcomeOf(install: Install): string {
  const { state, undoes, build_number, problem } = install;
  if (isInstalling(install)) return "";
  if (state !== "done") return problem || `Build ${build_number} was not installed; all was put back.`;
  return undoes === null ? `Build ${build_number} is installed.` : `Build ${build_number} is undone.`;
}

const filesChange = (count: number) => (count === 1 ? "1 file changes" : `${count} files change`);

/** Why there is no plan yet, and what to do. */
const Nothing = ({ site, description, children }: NothingProps) => (
  <div className={styles.empty}>
    <h1 className="unseen">Install on {site.name}</h1>
    <Empty description={description}>{children}</Empty>
  </div>
);

type PagesProps = { pages: string; set: (pages: string) => void };

/** Which pages get the lines: all of them, or those whose paths match. */
function Pages({ pages, set }: PagesProps) {
  const [typed, setTyped] = useState(pages);
  return (
    <form
      className={styles.pages}
      onSubmit={(event) => {
        event.preventDefault();
        set(typed.trim() || ALL_PAGES);
      }}
    >
      <label>
        Pages to edit, like *.html or news/*
        <Input value={typed} onChange={(event) => setTyped(event.target.value)} spellCheck={false} />
      </label>
      <Button htmlType="submit" disabled={(typed.trim() || ALL_PAGES) === pages}>
        Update plan
      </Button>
    </form>
  );
}
