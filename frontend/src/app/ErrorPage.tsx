import { Link, useLocation, useRouteError } from "react-router";

import styles from "./errorPage.module.css";

/** Shown for an address that leads nowhere, and when a view breaks. */
export function ErrorPage() {
  const error = useRouteError();
  const { pathname, search } = useLocation();
  return (
    <main className={styles.nothing}>
      <title>Not found · Bexi</title>
      <h1>{error ? "This view could not be shown" : "Nothing was found at this address"}</h1>
      <p>
        {error
          ? "Something went wrong in Bexi while showing it. Everything you saved is safe."
          : "The link may be old. Your sites are still here."}
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
