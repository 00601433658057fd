import { Button } from "antd";
import { useState } from "react";

import type { InstallPlan, InstallStep } from "../../api/client";
import type { Given } from "../../api/installs";
import { useDifference } from "../../api/plannings";
import { bytes } from "../../app/units";
import { Difference } from "./Difference";
import styles from "./plan.module.css";
import shared from "./install.module.css";

const KINDS: Record<InstallStep["kind"], string> = {
  add: "new",
  replace: "replaced, copy kept",
  edit: "edited, copy kept",
  remove: "removed, copy kept",
  same: "same already",
};

type Props = { plan: InstallPlan; planningId: number; given: Given };

const SHOWN = 50;

/** Every file that will be written, replaced or edited, and every page that will not. */
export function Plan({ plan, planningId, given }: Props) {
  const pages = plan.steps.filter((step) => step.page);
  const groups = [...new Set(pages.map(({ group }) => group))];
  return (
    <>
      {plan.not_well && <p className={styles.notWell}>Not clear in this set: {plan.not_well}.</p>}
      <h2>Files in the top folder</h2>
      <p className={styles.lead}>
        Browsers ask for favicon.ico there by themselves. They find the other files by the lines in the pages
        below.
      </p>
      <Steps steps={plan.steps.filter((step) => !step.page)} planningId={planningId} given={given} />
      {groups.map((group, number) => {
        const alike = pages.filter((page) => page.group === group);
        return (
          <section key={group} aria-label={`Pages with head ${number + 1}`}>
            <h2>
              {groups.length === 1 ? "Pages, lines in their head" : `Pages with one head, ${alike.length}`}
            </h2>
            <Steps steps={alike} planningId={planningId} given={given} firstOpen={number === 0} />
          </section>
        );
      })}
      {plan.left_alone.length > 0 && <LeftAlone pages={plan.left_alone} />}
    </>
  );
}

/** The pages that are not edited and the files that are not written, together by the reason why. */
function LeftAlone({ pages }: { pages: InstallPlan["left_alone"] }) {
  const reasons = [...new Set(pages.map(({ reason }) => reason))];
  return (
    <>
      <h2>Left alone</h2>
      <ul className={shared.steps}>
        {reasons.map((reason) => {
          const alike = pages.filter((page) => page.reason === reason);
          return (
            <li key={reason}>
              <p className={styles.reason}>{reason}</p>
              <div className={styles.alike}>
                {alike.slice(0, SHOWN).map(({ path }) => (
                  <code key={path}>{path}</code>
                ))}
                {alike.length > SHOWN && `and ${alike.length - SHOWN} more`}
              </div>
            </li>
          );
        })}
      </ul>
    </>
  );
}

type StepsProps = { steps: InstallStep[]; planningId: number; given: Given; firstOpen?: boolean };

/** A long list shows its beginning first. */
function Steps({ steps, planningId, given, firstOpen = false }: StepsProps) {
  const [all, setAll] = useState(false);
  const shown = all ? steps : steps.slice(0, SHOWN);
  return (
    <>
      <ul className={shared.steps}>
        {shown.map((step, number) => (
          <li key={step.path}>
            {step.text ? (
              <TextFile
                step={step}
                planningId={planningId}
                given={given}
                atOnce={firstOpen && number === 0 && step.kind !== "same"}
              />
            ) : (
              <>
                <div className={shared.line}>
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

type TextProps = { step: InstallStep; planningId: number; given: Given; atOnce: boolean };

/** A page or other text and, once it is opened or `atOnce`, what changes in it, line by line. */
function TextFile({ step, planningId, given, atOnce }: TextProps) {
  const [open, setOpen] = useState(atOnce);
  const difference = useDifference(planningId, step.path, given, open);
  return (
    <>
      <details open={atOnce} onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className={`${shared.line} ${styles.step}`}>
          <StepLine step={step} />
        </summary>
        {step.page && <Notes step={step} />}
        {difference.data && <Difference lines={difference.data.lines} />}
        {difference.error && <p>{difference.error.message}</p>}
      </details>
      {!step.page && <Notes step={step} />}
    </>
  );
}

function StepLine({ step }: { step: InstallStep }) {
  return (
    <>
      <code>{step.path}</code>
      <span>{KINDS[step.kind]}</span>
      {step.text && <span className={styles.see}>difference</span>}
      <span className={`reading ${styles.size}`}>{size(step)}</span>
    </>
  );
}

const Notes = ({ step }: { step: InstallStep }) =>
  step.notes.map((note) => (
    <p key={note} className={shared.note}>
      {note}
    </p>
  ));

function size({ bytes_before, bytes_after }: InstallStep): string {
  if (bytes_before === null) return bytes(bytes_after ?? 0);
  if (bytes_after === null || bytes_after === bytes_before) return bytes(bytes_before);
  return `${bytes(bytes_before)} → ${bytes(bytes_after)}`;
}
