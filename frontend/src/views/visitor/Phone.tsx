import type { Visitor } from "../../api/client";
import { when } from "../../app/units";
import { Picture } from "./Picture";
import styles from "./phone.module.css";
import shared from "./visitor.module.css";

type Props = { visitor: Visitor; nameOf: (address: string) => string };

/** The home screen of its phone; an icon stays as it was when it was put there. */
export function Phone({ visitor, nameOf }: Props) {
  return (
    <section className={shared.panel} aria-label="Its phone">
      <h2>Its phone’s home screen</h2>
      <div className={styles.phone}>
        {visitor.home_screen.length === 0 && <p>Nothing has been added to it yet.</p>}
        {visitor.home_screen.map(({ address, at, shown }) => (
          <figure key={address} title={`Put there ${when(at)} by its clock: ${shown.why}`}>
            {shown.address ? (
              <Picture shown={shown} side={60} name={`${nameOf(address)}, on the home screen`} />
            ) : (
              <span
                className={styles.scrap}
                role="img"
                aria-label="A small picture of the page, since there is no icon"
              />
            )}
            <figcaption>{nameOf(address)}</figcaption>
          </figure>
        ))}
      </div>
    </section>
  );
}
