import { Link, useRouteError } from "react-router";

import styles from "./errorPage.module.css";

/** Shown for an address that leads nowhere, and when a view breaks. */
export function ErrorPage() {
  const error = useRouteError();
  return (
    <main className={styles.nothing}>
      <title>Nothing here · Bexi</title>
      <h1>{error ? "This view could not be shown" : "There is nothing at this address"}</h1>
      <p>{error instanceof Error ? error.message : "The link may be old. Your sites are all there."}</p>
      <Link to="/">Go to the sites</Link>
    </main>
  );
}
