import { Spin } from "antd";

export function Loading({ what }: { what: string }) {
  return (
    <div role="status" style={{ padding: 64, display: "grid", justifyItems: "center", gap: 12 }}>
      <Spin />
      <span>{what}</span>
    </div>
  );
}
