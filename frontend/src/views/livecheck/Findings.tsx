import { Link } from "react-router";

import type { Finding, Report, Site } from "../../api/client";
import styles from "./findings.module.css";
import shared from "./livecheck.module.css";

const FEW = 3;

/** What is wrong, then what could be better, each with the control that mends it. */
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
      <ul className={styles.findings}>
        {findings.map((finding) => (
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
            <Remedy finding={finding} site={site} />
          </li>
        ))}
      </ul>
    </section>
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

/** The very control that mends a finding. */
function Remedy({ finding, site }: { finding: Finding; site: Site }) {
  const to = (view: string) => `/sites/${site.id}/${view}`;
  const install = site.has_build
    ? { label: "Install the set", target: to("install") }
    : { label: "Build a set", target: to("bench") };
  const controls: Record<Finding["action"], { label: string; target: string } | null> = {
    install,
    stamp: { label: "Change the addresses", target: to("set") },
    plan: { label: "Change the plan", target: to("set") },
    bench: { label: "Go to the bench", target: to("bench") },
    headers: { label: "See the settings", target: "#server-lines" },
    address: { label: "Change the address", target: to("install") },
    "by-hand": null,
  };
  const control = controls[finding.action];
  if (!control) return <span />;
  if (control.target.startsWith("#")) {
    return (
      <a className={shared.action} href={control.target}>
        {control.label}
      </a>
    );
  }
  return (
    <Link className={shared.action} to={control.target}>
      {control.label}
      <span className="unseen">, for: {finding.what}</span>
    </Link>
  );
}
