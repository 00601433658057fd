import { Button, Empty } from "antd";

/** The first step, where there is no site yet. */
export const NoSites = ({ add }: { add: () => void }) => (
  <Empty description="No sites yet. Add the first one to give it an icon.">
    <Button onClick={add}>Add a site</Button>
  </Empty>
);
