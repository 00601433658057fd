import { Link } from "react-router";

import { lasting } from "../../app/units";
import shared from "./install.module.css";

/** For how long whoever was on the site before goes on seeing its old icon, and what would end that sooner. */
export function UntilWhen({ seconds, siteId }: { seconds: number | null; siteId: number }) {
  if (seconds === null) return null;
  if (seconds === 0)
    return (
      <p className={shared.note}>Visitors who have the old icon will see the new one on their next visit.</p>
    );
  return (
    <p className={shared.note}>
      Visitors who have the old icon may keep seeing it for {lasting(seconds)}: browsers keep it that long.{" "}
      <Link to={`/sites/${siteId}/set`}>Addresses that change with the file</Link> end that sooner, except for{" "}
      <code>/favicon.ico</code>, which browsers ask for by themselves.
    </p>
  );
}
