import type { InstallPlan, InstallStep } from "../../api/client";
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

/** Every file that will be written, replaced or edited, and every page that will not. */
export function Plan({ plan }: { plan: InstallPlan }) {
  const pages = plan.steps.filter((step) => step.page);
  return (
    <>
      <h2>Files in the top folder</h2>
      <Steps steps={plan.steps.filter((step) => !step.page)} />
      {pages.length > 0 && <h2>Pages, lines in their head</h2>}
      {pages.length > 0 && <Steps steps={pages} />}
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

function Steps({ steps }: { steps: InstallStep[] }) {
  return (
    <ul className={styles.steps}>
      {steps.map((step) => (
        <li key={step.path}>
          {step.difference.length > 0 ? (
            <details>
              <summary className={styles.step}>
                <StepLine step={step} />
              </summary>
              <Notes step={step} />
              <Difference lines={step.difference} />
            </details>
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
  );
}

function StepLine({ step }: { step: InstallStep }) {
  return (
    <>
      <code>{step.path}</code>
      <span>{KINDS[step.kind]}</span>
      {step.difference.length > 0 && <span className={styles.see}>difference</span>}
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
