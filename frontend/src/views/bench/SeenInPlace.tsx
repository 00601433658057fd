import type { Rung, Site } from "../../api/client";
import { TrueSize, useDevicePixelRatio } from "../../app/TrueSize";
import styles from "./bench.module.css";
import { pngOf } from "./useLadder";

type Props = { site: Site; rungs: Rung[]; notes: string[] };

/** The icon where visitors meet it, in plain drawings that are no maker's browser or phone. */
export function SeenInPlace({ site, rungs, notes }: Props) {
  const dense = useDevicePixelRatio() >= 1.5;
  const tabIcon = rungs.find((rung) => rung.size === (dense ? 32 : 16));
  const homeIcon = rungs.find((rung) => rung.opaque);
  return (
    <section className={styles.places} tabIndex={0} aria-label="Seen in place, true size">
      <h2>Seen in place, true size</h2>
      {(["light", "dark"] as const).map((ground) => (
        <div key={ground} className={styles.tabs} data-ground={ground}>
          <OtherTab name="Tide" />
          <div className={styles.tab} data-chosen>
            {tabIcon && <TrueSize src={pngOf(tabIcon)} size={tabIcon.size} alt={`In a ${ground} tab`} />}
            <span>{site.name}</span>
          </div>
          <OtherTab name="Plots" />
        </div>
      ))}
      <div className={styles.bookmarks}>
        {tabIcon && <TrueSize src={pngOf(tabIcon)} size={tabIcon.size} alt="In a list of bookmarks" />}
        <span>{site.name}</span>
      </div>
      {homeIcon && (
        <div className={styles.home}>
          <div className={styles.homeIcon}>
            <TrueSize src={pngOf(homeIcon)} size={homeIcon.size} alt="On a home screen" />
          </div>
          <span className="reading">home-screen icon, {homeIcon.size} px, corners rounded by the phone</span>
        </div>
      )}
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

const OtherTab = ({ name }: { name: string }) => (
  <div className={styles.tab} aria-hidden>
    <i />
    <span>{name}</span>
  </div>
);
