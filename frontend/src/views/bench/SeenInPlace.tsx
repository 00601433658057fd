import { Segmented } from "antd";
import { type ReactNode, useState } from "react";

import type { Site } from "../../api/client";
import { useDevicePixelRatio } from "../../app/TrueSize";
import styles from "./places.module.css";
import { RungPicture } from "./RungPicture";
import type { Step } from "./useLadder";

type Props = { site: Site; rungs: Step[]; notes: string[]; children: ReactNode };

/** The icon where visitors meet it, in plain drawings that are no maker's browser or phone. */
export function SeenInPlace({ site, rungs, notes, children }: Props) {
  const dense = useDevicePixelRatio() >= 1.5;
  const small = rungs.find((rung) => rung.purpose === "tab" && rung.size === (dense ? 32 : 16));
  const medium = rungs.find((rung) => rung.purpose === "tab" && rung.size === 48);
  const home = rungs.find((rung) => rung.purpose === "home" && rung.size === 180);
  return (
    <section className={styles.places} tabIndex={0} aria-label="Seen in place, true size">
      {children}
      <h2>Seen in place, true size</h2>
      {small && <Vanishing rung={small} />}
      {small && (
        <>
          <Tabs site={site} rung={small} ground="light" chosen />
          <Tabs site={site} rung={small} ground="light" />
          <Tabs site={site} rung={small} ground="dark" chosen />
          <Tabs site={site} rung={small} ground="dark" />
          <ManyTabs rung={small} />
          <div className={styles.bookmarks}>
            <RungPicture rung={small} alt="In a row of bookmarks" />
            <span>{site.name}</span>
            <i />
            <span aria-hidden>Tide</span>
          </div>
          <div className={styles.result}>
            <RungPicture rung={small} alt="Beside a search result" />
            <span>
              {site.name}
              <small>{site.address.replace(/^https?:\/\//, "").replace(/\/$/, "") || "your site"}</small>
            </span>
          </div>
        </>
      )}
      {medium && (
        <div className={styles.windows}>
          <i />
          <RungPicture rung={medium} alt="In a row of open windows" />
          <i />
        </div>
      )}
      {home && <HomeScreen rung={home} />}
      {notes.length > 0 && (
        <ul className={styles.notes} aria-label="Notes on the artwork">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

const VANISHED = 1.5;

/** Where the icon's outline does not stand out from what it stands on. */
function Vanishing({ rung }: { rung: Step }) {
  const gone = Object.entries(rung.contrast).filter(([, ratio]) => ratio < VANISHED);
  if (!gone.length) return null;
  return (
    <ul className={styles.notes} aria-label="Where it vanishes">
      {gone.map(([ground, ratio]) => (
        <li key={ground}>
          {ground === "own" ? "On its own background" : `On ${ground} tabs`} it vanishes: its outline has a
          contrast of <span className="reading">{ratio.toFixed(1)} : 1</span>.
        </li>
      ))}
    </ul>
  );
}

type TabsProps = { site: Site; rung: Step; ground: "light" | "dark"; chosen?: boolean };

/** The site's tab among a few others, chosen or not. */
const Tabs = ({ site, rung, ground, chosen = false }: TabsProps) => (
  <div className={styles.tabs} data-ground={ground}>
    <OtherTab name="Tide" />
    <div className={styles.tab} data-chosen={chosen}>
      <RungPicture rung={rung} alt={`In a ${ground} tab, ${chosen ? "chosen" : "not chosen"}`} />
      <span>{site.name}</span>
    </div>
    <OtherTab name="Plots" chosen={!chosen} />
  </div>
);

const OtherTab = ({ name, chosen = false }: { name: string; chosen?: boolean }) => (
  <div className={styles.tab} data-chosen={chosen} aria-hidden>
    <i />
    <span>{name}</span>
  </div>
);

/** Among so many tabs that only icons are left, not chosen. */
const ManyTabs = ({ rung }: { rung: Step }) => (
  <div className={styles.manyTabs}>
    {[1, 2, 3].map((number) => (
      <i key={number} />
    ))}
    <RungPicture rung={rung} alt="Among many tabs" />
    {[4, 5, 6, 7].map((number) => (
      <i key={number} />
    ))}
  </div>
);

const MASKS = ["rounded", "circle", "square"] as const;

/** On a home screen, under the masks that phones lay over it. */
function HomeScreen({ rung }: { rung: Step }) {
  const [mask, setMask] = useState<(typeof MASKS)[number]>("rounded");
  return (
    <div className={styles.home}>
      <div className={styles.homeIcon} data-mask={mask}>
        <RungPicture rung={rung} alt={`On a home screen, ${mask}`} />
      </div>
      <span className="reading">home screen, {rung.size} px</span>
      <Segmented
        size="small"
        aria-label="Mask of the home screen"
        value={mask}
        options={MASKS.map((value) => ({ value, label: value[0]?.toUpperCase() + value.slice(1) }))}
        onChange={setMask}
      />
    </div>
  );
}
