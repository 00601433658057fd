import { pictureOf } from "../../api/client";
import type { Check, Shown, Site } from "../../api/client";
import styles from "./sight.module.css";

type Props = {
  site: Site;
  check: Check;
  built: number | null;
  kind: string;
  name: string;
  told?: string;
  shown: Shown | undefined;
};

/** Of each kind: the side at which it shows an icon, in CSS px, and the file of the set that is meant for it. */
const SHOWN_AT: Record<string, { side: number; file: string }> = {
  "home-screen": { side: 60, file: "apple-touch-icon.png" },
  app: { side: 64, file: "icon-192.png" },
  search: { side: 24, file: "favicon.ico/frames/48" },
};
const IN_TAB = { side: 16, file: "favicon.ico/frames/16" };

const STATES: Record<Shown["state"], { label: string; tone: string }> = {
  new: { label: "current icon", tone: "good" },
  old: { label: "old icon", tone: "caution" },
  earlier: { label: "an older icon, not known", tone: "caution" },
};

/** What one kind of visitor shows, where it shows it, at true size, beside what was built, and why. */
export function Sight({ site, check, built, kind, name, told, shown }: Props) {
  if (!shown) return null;
  const { side, file } = SHOWN_AT[kind] ?? IN_TAB;
  const icon = <Icon check={check} shown={shown} side={side} name={name} />;
  const state = STATES[shown.state];
  return (
    <article className={styles.sight} data-large={side > 24}>
      <h3>{name}</h3>
      {told && <small>{told}</small>}
      {kind in SHOWN_AT ? (
        <div className={styles.place} data-kind={kind}>
          {icon}
          <span>
            {site.name}
            {kind === "search" && (
              <small>{site.address.replace(/^https?:\/\//, "").replace(/\/$/, "")}</small>
            )}
          </span>
        </div>
      ) : (
        <>
          {(["light", "dark"] as const).map((ground) => (
            <div key={ground} className={styles.tab} data-ground={ground}>
              {icon}
              <span>{site.name}</span>
            </div>
          ))}
          <div className={styles.place} data-kind="bookmark">
            {icon}
            <span>{site.name}, kept as a bookmark</span>
          </div>
        </>
      )}
      <p className={styles.state}>
        <span data-tone={shown.address ? state.tone : "caution"}>
          {shown.address ? state.label : "no icon"}
        </span>
        {built !== null && (
          <span>
            built
            <img
              src={`/api/builds/${built}/files/${file}`}
              alt={`The icon that is installed, for ${name}`}
              width={side}
              height={side}
              onError={(event) => event.currentTarget.parentElement?.remove()}
            />
          </span>
        )}
      </p>
      <p className={styles.why}>{shown.why}</p>
    </article>
  );
}

type IconProps = { check: Check; shown: Shown; side: number; name: string };

function Icon({ check, shown, side, name }: IconProps) {
  if (!shown.sha256) {
    const told = shown.address ? "an earlier icon that nobody kept" : "no icon";
    return (
      <i
        className={styles.none}
        style={{ width: side, height: side }}
        role="img"
        aria-label={`${name}: ${told}`}
      />
    );
  }
  const px = Math.min(512, Math.round(side * devicePixelRatio));
  return (
    <img
      className={shown.masked ? styles.masked : ""}
      src={pictureOf(check.summary.id, shown.sha256, px)}
      alt={`${name}: the icon shown`}
      width={side}
      height={side}
    />
  );
}
