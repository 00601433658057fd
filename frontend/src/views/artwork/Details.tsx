import { Alert, Button, Checkbox, Form, Input, Select } from "antd";

import { useState } from "react";

import type { Artwork, Details as Noted } from "../../api/client";
import { useChangeDetails, useLicences } from "../../api/artwork";
import { useTyped } from "../../app/typed";
import styles from "./details.module.css";

/** What is noted about a piece: its name, words for it, and under which terms it may be used. */
export function Details({ artwork }: { artwork: Artwork }) {
  const licences = useLicences();
  const change = useChangeDetails(artwork.id);
  const { title, alt, credit, licence, origin, permission } = artwork;
  const kept = { title, alt, credit, licence, origin, permission };
  const { value, type, forget, isTyped } = useTyped<Noted>(`details-${artwork.id}`, kept);
  const asksCredit = licences.data?.find((one) => one.key === licence)?.asks_credit;
  const [wasTyped] = useState(isTyped); // else it would be out of sight
  return (
    <details className={styles.details} open={wasTyped}>
      <summary>
        Title, alt text and rights
        {isTyped && <span className={styles.missing}>not saved yet</span>}
        {asksCredit && !credit && <span className={styles.missing}>credit line missing</span>}
      </summary>
      <Form
        layout="vertical"
        initialValues={value}
        requiredMark={false}
        onValuesChange={(_, all: Noted) => {
          change.reset();
          type(all);
        }}
        onFinish={(values: Noted) => change.mutate(values, { onSuccess: forget })}
      >
        <Form.Item
          name="title"
          label="Title"
          rules={[{ required: true, whitespace: true, message: "Give it a title." }]}
        >
          <Input maxLength={120} />
        </Form.Item>
        <Form.Item name="alt" label="Alt text" extra="What a screen reader should say.">
          <Input maxLength={200} />
        </Form.Item>
        <Form.Item
          name="licence"
          label="Licence"
          extra="If it requires a credit, the line is included in the package."
        >
          <Select options={licences.data?.map((one) => ({ value: one.key, label: one.name })) ?? []} />
        </Form.Item>
        <Form.Item name="credit" label="Credit line">
          <Input maxLength={300} />
        </Form.Item>
        <Form.Item name="origin" label="Where it came from">
          <Input maxLength={500} />
        </Form.Item>
        <Form.Item name="permission" valuePropName="checked">
          <Checkbox>I have permission to use it</Checkbox>
        </Form.Item>
        {change.error && <Alert type="error" showIcon title={change.error.message} />}
        <Button htmlType="submit" loading={change.isPending}>
          {change.isSuccess && !isTyped ? "Saved" : "Save"}
        </Button>
      </Form>
    </details>
  );
}
