import { Alert, Button, Form, Input } from "antd";

import type { SiteInput } from "../../api/client";
import type { Where } from "./place";
import { PlaceField } from "./PlaceField";

type Props = {
  initial: Where & { name: string; address: string };
  action: string;
  saving: { isPending: boolean; error: Error | null };
  save: (site: SiteInput) => void;
  /** Whether its place is asked for now, and not only if it is known already. */
  whereNow?: boolean;
};

type About = { name: string; address: string; where: Where };

/** Name, address and place of a site. */
export function SiteForm({ initial, action, saving, save, whereNow = false }: Props) {
  const { name, address, place, without_server } = initial;
  return (
    <Form
      layout="vertical"
      initialValues={{ name, address, where: { place, without_server } }}
      onFinish={({ where, ...about }: About) => save({ ...about, ...where })}
      requiredMark={false}
    >
      <Form.Item
        name="name"
        label="Name"
        rules={[
          { required: true, whitespace: true, message: "Give the site a name; its icon package uses it." },
        ]}
      >
        <Input maxLength={80} />
      </Form.Item>
      <Form.Item
        name="address"
        label="Address, as visitors type it"
        extra="For the live check. Can be added later."
      >
        <Input placeholder="merrowmouth.example" inputMode="url" />
      </Form.Item>
      <Form.Item
        name="where"
        label="Where its files live"
        extra={whereNow ? undefined : "Can be added later."}
      >
        <PlaceField />
      </Form.Item>
      {saving.error && (
        <Alert type="error" showIcon title={saving.error.message} style={{ marginBottom: 16 }} />
      )}
      <Button type="primary" htmlType="submit" loading={saving.isPending}>
        {action}
      </Button>
    </Form>
  );
}
