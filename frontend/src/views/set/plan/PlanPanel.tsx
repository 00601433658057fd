import { Alert, Button, Checkbox, Segmented, Space } from "antd";

import type { AppMembers, Cost, PlannedFile, SetPlan, Site } from "../../../api/client";
import { useCatalogue, useCosts, usePlanChoices, useReadyPlans } from "../../../api/plans";
import { FirstMet } from "../../../app/FirstMet";
import { bytes } from "../../../app/units";
import { AppFields } from "./AppFields";
import { Fold } from "./Fold";
import { PlanOptions } from "./PlanOptions";
import layout from "./planPanel.module.css";
import styles from "./plan.module.css";

const OWN = "own";
const MANIFEST = "site.webmanifest";
const PLANS: Record<string, string> = { short: "Minimal", balanced: "Standard", whole: "Complete" };
const NARROW = "(max-width: 760px)";
const CURRENCIES = ["needed today", "older devices", "legacy"] as const;
const CURRENCY_NAMES: Record<string, string> = {
  "needed today": "Recommended",
  "older devices": "Older devices",
  legacy: "Legacy",
};

type Props = { site: Site; drawn: boolean };

/** Which files the set holds: a ready-made plan or one's own choice, each file with what it costs and why. */
export function PlanPanel({ site, drawn }: Props) {
  const { plan, choices, change, problem, retry, drop } = usePlanChoices(site.id);
  const catalogue = useCatalogue();
  const ready = useReadyPlans();
  const costs = useCosts(site.id, drawn);
  if (!plan || !choices || !catalogue.data) return <section className={layout.plan} aria-label="Set plan" />;
  const choose = (name: string) => {
    const files = ready.data?.find((one) => one.name === name)?.files;
    if (files) change(() => ({ files, extra: [] }));
  };
  return (
    <section className={layout.plan} aria-label="Set plan">
      <h2>Set plan</h2>
      <FirstMet word="set" />
      <Segmented
        size="small"
        aria-label="Ready-made plans"
        value={plan.ready ?? OWN}
        options={[
          ...(ready.data ?? []).map(({ name }) => ({
            value: name,
            label: PLANS[name] ?? name,
          })),
          { value: OWN, label: "Custom", disabled: plan.ready !== null },
        ]}
        onChange={choose}
      />
      <p className="reading">{totalOf(plan, costs.data)}</p>
      {problem && (
        <Alert
          type="error"
          title={`Not saved: ${problem.message}`}
          action={
            <Space>
              <Button onClick={retry}>Try again</Button>
              <Button onClick={drop}>Discard the change</Button>
            </Space>
          }
        />
      )}
      {CURRENCIES.map((currency) => (
        <Files
          key={currency}
          currency={currency}
          files={catalogue.data.filter((file) => file.currency === currency)}
          chosen={choices.files}
          costs={costs.data}
          toggle={(file) => change((now) => ({ files: toggled(now.files, file, catalogue.data) }))}
        />
      ))}
      {choices.files.includes(MANIFEST) && (
        <Fold title="Installed as an app" chosen={told(choices.app as AppMembers)}>
          <AppFields
            site={site}
            app={choices.app as AppMembers}
            change={(part) => change((now) => ({ app: { ...now.app, ...part } }))}
          />
        </Fold>
      )}
      <PlanOptions choices={choices} costs={costs.data} change={change} />
    </section>
  );
}

function totalOf(plan: SetPlan, costs: Cost[] | undefined): string {
  const names = plan.files.map(({ name }) => name);
  const held = costs?.filter(({ name, bytes: size }) => names.includes(name) && size !== null);
  if (!held) return `${names.length} files`;
  return `${held.length} files, ${bytes(held.reduce((sum, cost) => sum + (cost.bytes ?? 0), 0))} from this draft`;
}

/** The names with one file more or less; a file that only another one names brings that along, and goes with it. */
function toggled(files: string[], file: PlannedFile, catalogue: PlannedFile[]): string[] {
  if (!files.includes(file.name)) {
    const namer = file.named_by && !files.includes(file.named_by) ? [file.named_by] : [];
    return [...files, file.name, ...namer];
  }
  const named = catalogue.filter(({ named_by }) => named_by === file.name).map(({ name }) => name);
  return files.filter((name) => name !== file.name && !named.includes(name));
}

function told(app: AppMembers): string {
  const said = Object.values(app).filter(Boolean).length;
  return said ? `${said} of ${Object.keys(app).length} set` : "not set";
}

type FilesProps = {
  currency: string;
  files: PlannedFile[];
  chosen: string[];
  costs: Cost[] | undefined;
  toggle: (file: PlannedFile) => void;
};

/** Files that are asked for today, or by what is older. Older ones stay folded until they are wanted. */
function Files({ currency, files, chosen, costs, toggle }: FilesProps) {
  const held = files.filter(({ name }) => chosen.includes(name)).length;
  return (
    <Fold
      title={CURRENCY_NAMES[currency] ?? currency}
      chosen={`${held} of ${files.length} files`}
      open={currency === CURRENCIES[0] && !matchMedia(NARROW).matches}
    >
      {files.map((file) => (
        <Choice
          key={file.name}
          file={file}
          cost={costs?.find(({ name }) => name === file.name)}
          chosen={chosen.includes(file.name)}
          toggle={() => toggle(file)}
        />
      ))}
    </Fold>
  );
}

type ChoiceProps = { file: PlannedFile; cost: Cost | undefined; chosen: boolean; toggle: () => void };

function Choice({ file, cost, chosen, toggle }: ChoiceProps) {
  return (
    <div className={styles.choice}>
      <Checkbox checked={chosen} onChange={toggle} title={file.why}>
        {file.name}
      </Checkbox>
      <span className="reading" title={cost?.reason}>
        {cost ? (cost.bytes === null ? "not from this artwork" : bytes(cost.bytes)) : ""}
      </span>
    </div>
  );
}
