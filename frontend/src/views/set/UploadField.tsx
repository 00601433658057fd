import { Alert, Button, Input, InputNumber, Select } from "antd";
import { useState } from "react";

import type { Fit, Requirement, Site } from "../../api/client";
import { useFit, useForgetRequirement, useKeepRequirement, useRequirements } from "../../api/plans";
import { fileNameOf } from "../../app/download";
import { bytes } from "../../app/units";
import styles from "./uploadField.module.css";
import shared from "./set.module.css";

const FIRST: Requirement = { format: "png", size: 512, at_least: false, most_kb: null, ground: "either" };

/** One file for the upload field of a site builder, made to what that field asks for. */
export function UploadField({ site }: { site: Site }) {
  const [wanted, setWanted] = useState(FIRST);
  const fit = useFit(site.id);
  const set = (part: Partial<Requirement>) => {
    setWanted({ ...wanted, ...part });
    fit.reset();
  };
  return (
    <section className={shared.block} aria-label="One file for an upload field">
      <h2>One file for an upload field</h2>
      <Kept
        wanted={wanted}
        use={(kept) => {
          setWanted(kept);
          fit.reset();
        }}
      />
      <div className={styles.fields}>
        <Select
          aria-label="Format"
          value={wanted.format}
          options={(["png", "jpeg", "ico", "gif", "bmp"] as const).map((value) => ({
            value,
            label: value.toUpperCase(),
          }))}
          onChange={(format) => set({ format })}
        />
        <Select
          aria-label="Exactly or at least"
          value={wanted.at_least}
          options={[
            { value: false, label: "exactly" },
            { value: true, label: "at least" },
          ]}
          onChange={(at_least) => set({ at_least })}
        />
        <InputNumber
          aria-label="Side in px"
          min={1}
          max={1024}
          precision={0}
          value={wanted.size}
          suffix="px"
          onChange={(size) => set({ size: size ?? 1 })}
        />
        <InputNumber
          aria-label="At most KB"
          min={0.1}
          value={wanted.most_kb}
          placeholder="any size"
          suffix="KB"
          onChange={(most_kb) => set({ most_kb })}
        />
        <Select
          aria-label="Background the field requires"
          value={wanted.ground}
          options={[
            { value: "either", label: "transparent or opaque" },
            { value: "opaque", label: "opaque" },
            { value: "clear", label: "clear" },
          ]}
          onChange={(ground) => set({ ground })}
        />
        <Button loading={fit.isPending} onClick={() => fit.mutate(wanted)}>
          Make it
        </Button>
      </div>
      {fit.error && <Alert type="warning" showIcon title={fit.error.message} />}
      {fit.data && <Made fit={fit.data} wanted={wanted} site={site} />}
    </section>
  );
}

type MadeProps = { fit: Fit; wanted: Requirement; site: Site };

function Made({ fit, wanted, site }: MadeProps) {
  const address = `data:${fit.media_type};base64,${fit.data}`;
  const name = fileNameOf(site.name, fit.size, wanted.format);
  const enlarged = fit.enlargement !== null && fit.enlargement > 1;
  return (
    <div className={styles.made} role="status">
      <a href={address} download={name}>
        {name}
      </a>{" "}
      <span className="reading">
        {fit.size} px, {bytes(fit.bytes)}
      </span>
      <ul>
        {fit.notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
        {enlarged && (
          <li>The artwork is enlarged {fit.enlargement?.toFixed(1)} times, so it is not sharp.</li>
        )}
      </ul>
    </div>
  );
}

type KeptProps = { wanted: Requirement; use: (requirement: Requirement) => void };

/** What fields ask for, kept under a name for next time and for all sites. */
function Kept({ wanted, use }: KeptProps) {
  const kept = useRequirements();
  const keep = useKeepRequirement();
  const forget = useForgetRequirement();
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<number>();
  const inUse = kept.data?.some(({ id }) => id === chosen) ? chosen : undefined;
  return (
    <>
      {kept.data && kept.data.length > 0 && (
        <div className={styles.inline}>
          <Select
            aria-label="Saved presets"
            placeholder="Saved presets"
            {...(inUse === undefined ? {} : { value: inUse })}
            options={kept.data.map(({ id, name: label }) => ({ value: id, label }))}
            onChange={(id) => {
              const found = kept.data.find((one) => one.id === id);
              setChosen(id);
              if (found) {
                const {
                  format,
                  size,
                  at_least = false,
                  most_kb = null,
                  ground = "either",
                } = found.requirement;
                use({ format, size, at_least, most_kb, ground });
              }
            }}
          />
          {inUse !== undefined && (
            <Button size="small" onClick={() => forget.mutate(inUse)}>
              Delete
            </Button>
          )}
        </div>
      )}
      <div className={styles.inline}>
        <Input
          aria-label="Name of the preset"
          placeholder="Save as preset"
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button
          disabled={!name.trim()}
          onClick={() => keep.mutate({ name, requirement: wanted }, { onSuccess: () => setName("") })}
        >
          Keep
        </Button>
      </div>
      {keep.error && <Alert type="error" title={keep.error.message} />}
    </>
  );
}
