import { Alert, App, Button, Segmented, Upload } from "antd";
import { useState } from "react";

import { answer, type ByHandCase, client, type Site } from "../../api/client";
import { useBuilds } from "../../api/builds";
import { useByHandCases } from "../../api/installs";
import styles from "./byHand.module.css";
import { LinkButton } from "../../app/LinkButton";

/** For whoever cannot reach the server: a package, the lines, and short steps for the case at hand. */
export function ByHand({ site }: { site: Site }) {
  const [chosen, setChosen] = useState<ByHandCase["case"]>("pages");
  const cases = useByHandCases().data;
  const build = useBuilds(site.id).data?.[0];
  const { message } = App.useApp();
  if (!build || !cases) return null;
  const copy = () =>
    navigator.clipboard.writeText(build.head.join("\n")).then(
      () => message.success("The lines are on the clipboard."),
      () => message.error("The browser does not allow copying here. Copy the lines on the Set view."),
    );
  const steps = (
    <>
      <Segmented
        block
        size="small"
        aria-label="How the site is made"
        value={chosen}
        options={cases.map(({ case: value, label }) => ({ value, label }))}
        onChange={setChosen}
      />
      <ol>
        {cases
          .find((one) => one.case === chosen)
          ?.steps.map((step) => (
            <li key={step}>{step}</li>
          ))}
      </ol>
      <div className={styles.actions}>
        <Button href={`/api/builds/${build.id}/by-hand.zip?case=${chosen}`} download>
          Download the package
        </Button>
        <Button onClick={() => void copy()}>Copy the lines</Button>
        <LinkButton to={`/sites/${site.id}/live-check`}>Go to the live check</LinkButton>
      </div>
    </>
  );
  if (site.without_server === "zip")
    return (
      <div className={styles.byHand}>
        <SiteZip site={site} />
      </div>
    );
  if (site.without_server === "hand") return <div className={styles.byHand}>{steps}</div>;
  return (
    <details className={styles.byHand} open={!site.place}>
      <summary>Install by hand instead</summary>
      {steps}
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
      const changed = await answer(
        client.POST("/api/sites/{site_id}/site-zip", {
          params: { path: { site_id: site.id } },
          body: body as never,
          parseAs: "blob",
        }),
      );
      setMade(await asDataAddress(changed as Blob));
    } catch (cause) {
      setProblem(cause as Error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <p>
        {site.without_server === "zip" ? "Give" : "Or give"} a ZIP of the whole site, and get back the files
        that change, to upload where the others are:
      </p>
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
