import { Progress } from "antd";

import type { BuildRun } from "../../../api/client";

/** How many files of a set are built. */
export const FilesBuilt = ({ run: { done, total, has_no_worker } }: { run: BuildRun }) => (
  <div role="status">
    {has_no_worker && <p>Waiting: no worker answers. Start Bexi again.</p>}
    <Progress
      percent={total ? Math.round((100 * done) / total) : 0}
      format={() => (total ? `${done} of ${total}` : "")}
      size="small"
      aria-label="Files built"
    />
  </div>
);
