import { Alert, Button } from "antd";
import { Link } from "react-router";

import type { Requirement, Site } from "../../../api/client";
import { useFit } from "../../../api/plans";
import { download, fileNameOf } from "../../../app/download";
import { bytes } from "../../../app/units";
import styles from "./begun.module.css";

/** What upload fields ask for most. */
const USUAL: [string, Requirement][] = [
  ["32 px PNG", { format: "png", size: 32, at_least: false, most_kb: null, ground: "either" }],
  ["512 px PNG", { format: "png", size: 512, at_least: false, most_kb: 1000, ground: "either" }],
  ["ICO", { format: "ico", size: 48, at_least: false, most_kb: null, ground: "either" }],
  ["180 px, opaque", { format: "png", size: 180, at_least: false, most_kb: null, ground: "opaque" }],
];

/** Makes the one file that an upload field asks for, and has the browser save it. */
export function OneFile({ site }: { site: Site }) {
  const fit = useFit(site.id);
  const made = fit.data && fit.variables ? { ...fit.data, format: fit.variables.format } : undefined;
  const make = (wanted: Requirement) =>
    fit.mutate(wanted, {
      onSuccess: ({ media_type, data, size }) =>
        download(`data:${media_type};base64,${data}`, fileNameOf(site.name, size, wanted.format)),
    });
  return (
    <div className={styles.oneFile} role="group" aria-label="One file for an upload field">
      {USUAL.map(([label, wanted]) => (
        <Button
          key={label}
          loading={fit.isPending && fit.variables === wanted}
          disabled={fit.isPending}
          onClick={() => make(wanted)}
        >
          {label}
        </Button>
      ))}
      <Link to={`/sites/${site.id}/set`}>Another size or format</Link>
      {made && (
        <p role="status" className={styles.made}>
          <a
            href={`data:${made.media_type};base64,${made.data}`}
            download={fileNameOf(site.name, made.size, made.format)}
          >
            {fileNameOf(site.name, made.size, made.format)}
          </a>
          , {bytes(made.bytes)}, is in your downloads.
        </p>
      )}
      {made?.notes.map((note) => (
        <p key={note} className={styles.made}>
          {note}
        </p>
      ))}
      {fit.error && <Alert type="warning" showIcon title={fit.error.message} />}
    </div>
  );
}
