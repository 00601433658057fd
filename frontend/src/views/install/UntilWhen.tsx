import { Link } from "react-router";

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

const SPANS: [number, string][] = [
  [365 * 86_400, "year"],
  [86_400, "day"],
  [3600, "hour"],
  [60, "minute"],
];

/** How long something lasts, in the largest unit that fits, rounded up, like "up to 7 days". */
function lasting(seconds: number): string {
  const [length, unit] = SPANS.find(([length]) => seconds >= length) ?? [60, "minute"];
  const count = Math.ceil(seconds / length);
  return `up to ${count} ${unit}${count === 1 ? "" : "s"}`;
}
