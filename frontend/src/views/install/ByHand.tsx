import { Alert, App, Button, Segmented, Upload } from "antd";
import { useState } from "react";
import { Link } from "react-router";

import { csrfToken, problemFrom, type Site } from "../../api/client";
import { useBuilds } from "../../api/queries";
import styles from "./install.module.css";

const CASES = [
  { value: "pages", label: "Plain pages" },
  { value: "template", label: "Shared header" },
  { value: "builder", label: "Site builder" },
] as const;
type Case = (typeof CASES)[number]["value"];

const STEPS: Record<Case, string[]> = {
  pages: [
    "Put the files of the package into the top folder, over the old ones; keep a copy of those.",
    "Paste the lines (the button below copies them) into every page, inside <head>, in place of earlier icon lines.",
    "Save, and publish if your host asks for it.",
  ],
  template: [
    "Put the files of the package into the top folder, over the old ones; keep a copy of those.",
    "Open the one file that holds the <head> of all pages, and paste the lines (the button below copies them) into it, in place of earlier icon lines.",
    "Save, and publish if your host asks for it.",
  ],
  builder: [
    "In the site builder's settings, look for the field for the favicon. Make the file it asks for on the Set view.",
    "If the builder has a field for code in the head, paste the lines there; they need the files at the addresses they name.",
    "Save, then publish: a saved draft is seen by nobody.",
  ],
};

/** For whoever cannot reach the server: a package, the lines, and short steps for the case at hand. */
export function ByHand({ site }: { site: Site }) {
  const [chosen, setChosen] = useState<Case>("pages");
  const build = useBuilds(site.id).data?.[0];
  const { message } = App.useApp();
  if (!build) return null;
  const copy = () =>
    navigator.clipboard.writeText(build.head.join("\n")).then(
      () => message.success("The lines are on the clipboard."),
      () => message.error("The browser does not allow copying here. Copy the lines on the Set view."),
    );
  return (
    <details className={styles.byHand}>
      <summary>Install by hand instead</summary>
      <Segmented
        block
        size="small"
        aria-label="How the site is made"
        value={chosen}
        options={[...CASES]}
        onChange={setChosen}
      />
      <ol>
        {STEPS[chosen].map((step) => (
          <li key={step}>{step}</li>
        ))}
        <li>
          Then <Link to={`/sites/${site.id}/live-check`}>check it</Link>: look at what visitors really get.
        </li>
      </ol>
      <div className={styles.actions}>
        <Button href={`/api/builds/${build.id}/by-hand.zip`} download>
          Download the package
        </Button>
        <Button onClick={() => void copy()}>Copy the lines</Button>
      </div>
      <SiteZip site={site} />
    </details>
  );
}

/** A ZIP of the site in, a ZIP of just the changed files out. */
function SiteZip({ site }: { site: Site }) {
  const [problem, setProblem] = useState<Error>();
  const [made, setMade] = useState<string>();
  const [busy, setBusy] = useState(false);
  const send = async (file: File) => {
    setBusy(true);
    setProblem(undefined);
    setMade(undefined);
    const body = new FormData();
    body.append("file", file);
    try {
      const response = await fetch(`/api/sites/${site.id}/site-zip`, {
        method: "POST",
        headers: { "X-CSRFToken": csrfToken(), Accept: "application/json" },
        body,
      });
      if (!response.ok) throw problemFrom(await response.json());
      setMade(await asDataAddress(await response.blob()));
    } catch (cause) {
      setProblem(cause as Error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <p>Or give a ZIP of the whole site, and get back the files that change:</p>
      <Upload
        accept=".zip"
        showUploadList={false}
        beforeUpload={(file) => {
          void send(file);
          return false;
        }}
      >
        <Button loading={busy}>Choose a ZIP of the site</Button>
      </Upload>
      {problem && <Alert type="error" showIcon title={problem.message} />}
      {made && (
        <div role="status">
          <a href={made} download="changed-files.zip">
            Download the changed files
          </a>
        </div>
      )}
    </>
  );
}

const asDataAddress = (blob: Blob) =>
  new Promise<string>((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.readAsDataURL(blob);
  });
