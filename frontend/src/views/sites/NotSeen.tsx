import { Button } from "antd";

import { isLooking, useChecks, useOrderCheck } from "../../api/checks";
import type { Site } from "../../api/client";

/** A site that was never looked at: it can be, at once. */
export function NotSeen({ site }: { site: Site }) {
  const look = useOrderCheck(site.id);
  const checks = useChecks(site.id, look.isSuccess);
  if (checks.data?.[0] && isLooking(checks.data[0])) return "checking …";
  if (!site.address) return "not checked";
  return (
    <Button size="small" loading={look.isPending} onClick={() => look.mutate(undefined)}>
      Check now<span className="unseen"> at {site.name}</span>
    </Button>
  );
}
