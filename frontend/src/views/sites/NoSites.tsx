import { Empty } from "antd";

/** The first step, where there is no site yet. */
export const NoSites = () => (
  <Empty description="No sites yet. Drop a logo, or type a site's address above, to give the first one an icon." />
);
