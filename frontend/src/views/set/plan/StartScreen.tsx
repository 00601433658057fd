import type { AppMembers, Picture, Site } from "../../../api/client";
import { useDraft, useRungsOf } from "../../../api/drafts";
import { contrast, GRAPHICS_NEED, standsOut } from "../../../app/colour";
import styles from "./startScreen.module.css";
import shared from "./plan.module.css";

/** The icon of the manifest that start screens of this density take [common practice]. */
const ICON: Picture[] = [{ size: 192, purpose: "tab" }];
const [DARK, LIGHT] = ["#000000", "#ffffff"];

/** What a phone shows while the app starts: the icon as it would be built, and the name, on the ground that was chosen. */
export function StartScreen({ site, app }: { site: Site; app: AppMembers }) {
  const draft = useDraft(site.id).data ?? undefined;
  const ground = app.background ?? LIGHT;
  const icon = useRungsOf(draft, ICON, ground).data?.[0];
  if (app.display === "" || app.display === "browser") {
    return <p className={shared.hint}>Opened in the browser it has no start screen.</p>;
  }
  const apart = icon?.contrast.own;
  return (
    <figure className={styles.start}>
      <div className={styles.phone} style={{ background: ground, color: readable(ground) }}>
        {app.display !== "fullscreen" && (
          <div
            className={styles.bar}
            style={{
              background: app.theme ?? DARK,
              color: readable(app.theme ?? DARK),
            }}
          >
            10:00
          </div>
        )}
        {icon && <img src={`data:image/png;base64,${icon.png}`} width={96} height={96} alt="The icon" />}
        <span className={styles.appName}>{site.name}</span>
      </div>
      <figcaption className={shared.hint}>
        Start screen: icon-192.png on 96 CSS px, as on a screen with two pixels for each.
        {!app.background && " Its background is not set; browsers mostly use white."}
        {apart !== undefined && !standsOut(apart) && (
          <span data-tone="caution">
            {" "}
            The mark has {apart.toFixed(1)} : 1 to this background; {GRAPHICS_NEED}.
          </span>
        )}
      </figcaption>
    </figure>
  );
}

const readable = (ground: string) => (contrast(ground, DARK) > contrast(ground, LIGHT) ? DARK : LIGHT);
