import type { ReactNode } from "react";

import styles from "./fold.module.css";

type Props = { title: string; chosen: string; open?: boolean; children: ReactNode };

/** A part of the plan that folds away; what is chosen in it is read without opening it. */
export function Fold({ title, chosen, open, children }: Props) {
  return (
    <details className={styles.fold} open={open}>
      <summary>
        <h3>{title}</h3>
        <span className="reading">{chosen}</span>
      </summary>
      <div className={styles.within}>{children}</div>
    </details>
  );
}
