import { Checkbox, Select } from "antd";

import type { AppMembers, Site } from "../../../api/client";
import { ColourField } from "../../../app/ColourField";
import { KeptInput } from "../../../app/KeptInput";
import styles from "./appFields.module.css";
import shared from "./plan.module.css";
import { StartScreen } from "./StartScreen";

const DISPLAYS: { value: AppMembers["display"]; label: string }[] = [
  { value: "", label: "not set: in the browser" },
  { value: "browser", label: "in the browser" },
  { value: "minimal-ui", label: "in its own window, with back and reload" },
  { value: "standalone", label: "in its own window, like other apps" },
  { value: "fullscreen", label: "full screen" },
];
/** More characters than these are often cut under an icon [common practice]. */
const ROOM_FOR_NAME = 12;

type Props = { site: Site; app: AppMembers; change: (part: Partial<AppMembers>) => void };

/** What the manifest says of the site once somebody installs it as an app, and how it starts then. */
export function AppFields({ site, app, change }: Props) {
  const name = app.short_name || site.name;
  return (
    <>
      <p className={shared.hint}>
        Goes into site.webmanifest, or into the manifest the site has. Fields left empty keep what the site’s
        own manifest says.
      </p>
      <Words
        label="Short name, under the icon"
        value={app.short_name}
        otherwise={site.name}
        set={(short_name) => change({ short_name })}
      />
      {name.length > ROOM_FOR_NAME && (
        <p className={shared.hint} data-tone="caution">
          “{name}” has {name.length} characters; many screens cut a name after about {ROOM_FOR_NAME}.
        </p>
      )}
      <label>
        Opens
        <Select
          size="small"
          value={app.display}
          options={DISPLAYS}
          onChange={(display) => change({ display })}
        />
      </label>
      <Words
        label="Start address"
        value={app.start}
        otherwise="the page it was installed from"
        set={(start) => change({ start })}
      />
      <Words
        label="Id, where one host has several apps"
        value={app.id}
        otherwise="the start address"
        set={(id) => change({ id })}
      />
      <OwnColour
        label="Start screen"
        value={app.background}
        otherwise="#ffffff"
        set={(background) => change({ background })}
      />
      <OwnColour
        label="Bars around the app"
        value={app.theme}
        otherwise="#16302a"
        set={(theme) => change({ theme })}
      />
      <StartScreen site={site} app={app} />
    </>
  );
}

type WordsProps = { label: string; value: string; otherwise: string; set: (value: string) => void };

/** A field that is kept when it is left. */
function Words({ label, value, otherwise, set }: WordsProps) {
  return (
    <label>
      {label}
      <KeptInput value={value} placeholder={otherwise} keep={set} />
    </label>
  );
}

type OwnColourProps = {
  label: string;
  value: string | null;
  otherwise: string;
  set: (value: string | null) => void;
};

/** A colour that may be left unsaid. */
function OwnColour({ label, value, otherwise, set }: OwnColourProps) {
  return (
    <div className={styles.colour}>
      <Checkbox checked={value !== null} onChange={(event) => set(event.target.checked ? otherwise : null)}>
        {label} in a colour of {label.startsWith("Bars") ? "their" : "its"} own
      </Checkbox>
      {value && <ColourField label={label} value={value} set={set} />}
    </div>
  );
}
