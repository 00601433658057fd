import { Progress } from "antd";

import type { Judged } from "../api/judging";

/** How many of a piece's framings are judged. */
export const HowFar = ({ judged }: { judged: Judged | null | undefined }) => {
  const { done, total } = judged ?? { done: 0, total: 0 };
  return (
    <Progress
      percent={total ? Math.round((100 * done) / total) : 0}
      format={() => (total ? `${done} of ${total}` : "")}
      size="small"
      aria-label="Framings judged"
    />
  );
};
