import { Link } from "react-router";

import type { Finding, Report, Site } from "../../api/client";
import styles from "./findings.module.css";
import shared from "./livecheck.module.css";

const FEW = 3;

/** Problems, then suggestions, each by what fixes it: what fixes most stands first, with the one action for all of them. */
export function Findings({ report, site }: { report: Report; site: Site }) {
  const wrong = report.findings.filter((finding) => finding.wrong);
  const advice = report.findings.filter((finding) => !finding.wrong);
  return (
    <>
      <List title="Problems" findings={wrong} site={site} tone="bad" sign="!" />
      <List title="Suggestions" findings={advice} site={site} tone="caution" sign="→" />
    </>
  );
}

type ListProps = { title: string; findings: Finding[]; site: Site; tone: string; sign: string };

function List({ title, findings, site, tone, sign }: ListProps) {
  if (!findings.length) return null;
  return (
    <section aria-label={title} className={shared.panel}>
      <h2>{title}</h2>
      {byCure(findings, site).map(({ control, cured }) => (
        <div key={control?.label ?? `${cured[0]?.what} ${cured[0]?.evidence}`}>
          {control && cured.length > 1 && (
            <p className={styles.cure}>
              <span>
                <strong>{control.label}</strong> fixes{" "}
                {cured.length === findings.length ? "all" : cured.length}
                {cured.length < findings.length && ` of these ${findings.length}`}
              </span>
              <Remedy control={control} for={`${cured.length} findings`} />
            </p>
          )}
          <ul className={styles.findings}>
            {cured.map((finding) => (
              <li key={`${finding.what} ${finding.evidence}`}>
                <span className={styles.sign} data-tone={tone} aria-hidden>
                  {sign}
                </span>
                <div>
                  <strong>{finding.what}</strong>
                  <p>{finding.evidence}</p>
                  <Where where={finding.where} />
                  <p className={styles.why}>{finding.why}</p>
                  <p>{finding.remedy}</p>
                </div>
                {control && cured.length === 1 && <Remedy control={control} for={finding.what} />}
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

type Control = { label: string; target: string };
type Cure = { control: Control | null; cured: Finding[] };

/** The findings with what fixes them; the control that fixes most first, what a person does by hand each by itself, last. */
function byCure(findings: Finding[], site: Site): Cure[] {
  const cures: Cure[] = [];
  for (const finding of findings) {
    const control = controlFor(finding.action, site);
    const same = control && cures.find((one) => one.control?.label === control.label);
    if (same) same.cured.push(finding);
    else cures.push({ control, cured: [finding] });
  }
  return cures.sort(
    (one, other) =>
      Number(one.control === null) - Number(other.control === null) || other.cured.length - one.cured.length,
  );
}

function Where({ where }: { where: string[] }) {
  const few = where.slice(0, FEW).map(pathOf).join(", ");
  if (where.length <= FEW) return <code className={styles.where}>{few}</code>;
  return (
    <details className={styles.where}>
      <summary>
        <code>{few}</code> and {where.length - FEW} more
      </summary>
      <code>{where.slice(FEW).map(pathOf).join(", ")}</code>
    </details>
  );
}

export function pathOf(address: string): string {
  try {
    const { pathname, search } = new URL(address);
    return pathname + search;
  } catch {
    return address;
  }
}

/** The very control that fixes a finding; none for what is done by hand. */
function controlFor(action: Finding["action"], site: Site): Control | null {
  const to = (view: string) => `/sites/${site.id}/${view}`;
  const controls: Record<Finding["action"], Control | null> = {
    install: site.has_build
      ? { label: "Install the set", target: to("install") }
      : { label: "Build a set", target: to("bench") },
    stamp: { label: "Change the addresses", target: to("set") },
    plan: { label: "Change the plan", target: to("set") },
    bench: { label: "Go to the bench", target: to("bench") },
    headers: { label: "See the settings", target: "#server-lines" },
    address: { label: "Change the address", target: to("install") },
    "by-hand": null,
  };
  return controls[action];
}

function Remedy({ control: { label, target }, for: what }: { control: Control; for: string }) {
  const named = (
    <>
      {label}
      <span className="unseen">, for: {what}</span>
    </>
  );
  return target.startsWith("#") ? (
    <a className={shared.action} href={target}>
      {named}
    </a>
  ) : (
    <Link className={shared.action} to={target}>
      {named}
    </Link>
  );
}
