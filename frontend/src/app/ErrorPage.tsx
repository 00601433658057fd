import { Link, useLocation, useRouteError } from "react-router";

import styles from "./errorPage.module.css";

/** Shown for an address that leads nowhere, and when a view breaks. */
export function ErrorPage() {
  const error = useRouteError();
  const { pathname, search } = useLocation();
  return (
    <main className={styles.nothing}>
      <title>Nothing here · Bexi</title>
      <h1>{error ? "This view could not be shown" : "There is nothing at this address"}</h1>
      <p>
        {error
          ? "Something in Bexi went wrong while it was drawn. What you saved is all there."
          : "The link may be old. Your sites are all there."}
      </p>
      {Boolean(error) && (
        <Link to={pathname + search} replace>
          Show it again
        </Link>
      )}
      <Link to="/">Go to the sites</Link>
    </main>
  );
}
