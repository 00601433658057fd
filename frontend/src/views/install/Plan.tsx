import { Button } from "antd";
import { useState } from "react";

import type { InstallPlan, InstallStep, Site } from "../../api/client";
import { useDifference } from "../../api/queries";
import { bytes } from "../../app/units";
import { Difference } from "./Difference";
import styles from "./install.module.css";

const KINDS: Record<InstallStep["kind"], string> = {
  add: "new",
  replace: "replaced, copy kept",
  edit: "edited, copy kept",
  remove: "removed, copy kept",
  same: "same already",
};

type Props = { plan: InstallPlan; site: Site; secret: string };

const SHOWN = 50;

/** Every file that will be written, replaced or edited, and every page that will not. */
export function Plan({ plan, site, secret }: Props) {
  const pages = plan.steps.filter((step) => step.page);
  const groups = [...new Set(pages.map(({ group }) => group))];
  return (
    <>
      <h2>Files in the top folder</h2>
      <Steps steps={plan.steps.filter((step) => !step.page)} site={site} secret={secret} />
      {groups.map((group, number) => {
        const alike = pages.filter((page) => page.group === group);
        return (
          <section key={group} className={styles.group} aria-label={`Pages with head ${number + 1}`}>
            <h2>
              {groups.length === 1 ? "Pages, lines in their head" : `Pages with one head, ${alike.length}`}
            </h2>
            <Steps steps={alike} site={site} secret={secret} />
          </section>
        );
      })}
      {plan.left_alone.length > 0 && (
        <>
          <h2>Pages left alone</h2>
          <ul className={styles.steps}>
            {plan.left_alone.map(({ path, reason }) => (
              <li key={path} className={styles.step}>
                <code>{path}</code>
                <span className={styles.reason}>{reason}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

type StepsProps = { steps: InstallStep[]; site: Site; secret: string };

/** A long list shows its beginning first. */
function Steps({ steps, site, secret }: StepsProps) {
  const [all, setAll] = useState(false);
  const shown = all ? steps : steps.slice(0, SHOWN);
  return (
    <>
      <ul className={styles.steps}>
        {shown.map((step) => (
          <li key={step.path}>
            {step.kind === "edit" ? (
              <EditedPage step={step} site={site} secret={secret} />
            ) : (
              <>
                <div className={styles.step}>
                  <StepLine step={step} />
                </div>
                <Notes step={step} />
              </>
            )}
          </li>
        ))}
      </ul>
      {shown.length < steps.length && (
        <Button onClick={() => setAll(true)}>Show the other {steps.length - shown.length}</Button>
      )}
    </>
  );
}

type EditedProps = { step: InstallStep; site: Site; secret: string };

/** A page and, once it is opened, what changes in it, line by line. */
function EditedPage({ step, site, secret }: EditedProps) {
  const [open, setOpen] = useState(false);
  const difference = useDifference(site.id, step.path, secret, open);
  return (
    <details onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className={styles.step}>
        <StepLine step={step} />
      </summary>
      <Notes step={step} />
      {difference.data && <Difference lines={difference.data.lines} />}
      {difference.error && <p>{difference.error.message}</p>}
    </details>
  );
}

function StepLine({ step }: { step: InstallStep }) {
  return (
    <>
      <code>{step.path}</code>
      <span>{KINDS[step.kind]}</span>
      {step.kind === "edit" && <span className={styles.see}>difference</span>}
      <span className={`reading ${styles.size}`}>{size(step)}</span>
    </>
  );
}

const Notes = ({ step }: { step: InstallStep }) =>
  step.notes.map((note) => (
    <p key={note} className={styles.note}>
      {note}
    </p>
  ));

function size({ bytes_before, bytes_after }: InstallStep): string {
  if (bytes_before === null) return bytes(bytes_after ?? 0);
  if (bytes_after === null || bytes_after === bytes_before) return bytes(bytes_before);
  return `${bytes(bytes_before)} → ${bytes(bytes_after)}`;
}
