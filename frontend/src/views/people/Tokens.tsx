import { Alert, Button, Form, Input, InputNumber, Select } from "antd";

import type { Me, TokenInput } from "../../api/client";
import { ROLE_NAMES } from "../../api/me";
import { useEndToken, useMakeToken, useTokens } from "../../api/people";
import { when } from "../../app/units";
import styles from "./tokens.module.css";
import shared from "./people.module.css";

/** Tokens by which scripts get in: made, seen once, ended. */
export function Tokens({ me }: { me: Me }) {
  const tokens = useTokens();
  const make = useMakeToken();
  const end = useEndToken();
  const roles = me.may;
  return (
    <section className={shared.card} aria-labelledby="tokens">
      <h2 id="tokens">Tokens for scripts</h2>
      <p>
        A script sends one as <code>Authorization: Bearer …</code> and may do what its role allows, until it
        expires.
      </p>
      <ul className={shared.rows}>
        {tokens.data?.map(({ id, name, role, ends, used }) => (
          <li key={id}>
            <strong>{name}</strong>
            <span>{ROLE_NAMES[role]}</span>
            <span className="reading">
              expires {when(ends)}, {used ? `used ${when(used)}` : "not used yet"}
            </span>
            <Button size="small" onClick={() => end.mutate(id)}>
              Revoke<span className="unseen"> {name}</span>
            </Button>
          </li>
        ))}
      </ul>
      <Form
        layout="vertical"
        requiredMark={false}
        className={shared.fields}
        initialValues={{ role: "edits", days: 90 } satisfies Partial<TokenInput>}
        onFinish={(token: TokenInput) => make.mutate(token)}
      >
        <Form.Item
          name="name"
          label="What it is for"
          rules={[{ required: true, message: "Name the script." }]}
        >
          <Input maxLength={60} />
        </Form.Item>
        <Form.Item name="role" label="Role">
          <Select options={roles.map((value) => ({ value, label: ROLE_NAMES[value] }))} />
        </Form.Item>
        <Form.Item name="days" label="Expires after, days">
          <InputNumber min={1} max={366} precision={0} />
        </Form.Item>
        <Button htmlType="submit" loading={make.isPending}>
          Make a token
        </Button>
        {make.error && <Alert type="error" showIcon title={make.error.message} />}
        {make.data && (
          <Alert
            type="success"
            showIcon
            title="Copy it now: Bexi keeps only a hash and never shows it again."
            description={<code className={styles.secret}>{make.data.secret}</code>}
          />
        )}
      </Form>
    </section>
  );
}
