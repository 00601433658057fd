import { Alert, Button, Form, Input, Select } from "antd";

import type { Account, AccountInput } from "../../api/client";
import { OPTIONS } from "./roles";
import { useAddPerson, useChangePerson, usePeople } from "../../api/people";
import { when } from "../../app/units";
import styles from "./people.module.css";

/** Everybody's accounts: added, given a role, shut. */
export function People({ isFirst }: { isFirst: boolean }) {
  const people = usePeople();
  const add = useAddPerson();
  const [form] = Form.useForm<AccountInput>();
  return (
    <section className={styles.card} aria-labelledby="people">
      <h2 id="people">{isFirst ? "Add the first account" : "Everybody"}</h2>
      {isFirst && <p>Administrators manage accounts and permissions.</p>}
      <ul className={styles.rows}>
        {people.data?.map((account) => (
          <Person key={account.id} account={account} />
        ))}
      </ul>
      <Form
        form={form}
        layout="vertical"
        requiredMark={false}
        className={styles.fields}
        initialValues={{ role: "edits" } satisfies Partial<AccountInput>}
        onFinish={({ role = "administers", ...account }) =>
          add.mutate({ ...account, role }, { onSuccess: () => form.resetFields() })
        }
      >
        <Form.Item
          name="name"
          label="Name to sign in with"
          rules={[{ required: true, message: "Enter a name." }]}
        >
          <Input maxLength={60} spellCheck={false} autoComplete="off" />
        </Form.Item>
        <Form.Item
          name="password"
          label="First password, at least 12 characters"
          rules={[{ required: true, min: 12, message: "At least 12 characters." }]}
        >
          <Input.Password autoComplete="new-password" />
        </Form.Item>
        {isFirst || (
          <Form.Item name="role" label="Role">
            <Select options={OPTIONS} popupMatchSelectWidth={false} />
          </Form.Item>
        )}
        <Button htmlType="submit" loading={add.isPending}>
          Add the account
        </Button>
        {add.error && <Alert type="error" showIcon title={add.error.message} />}
      </Form>
    </section>
  );
}

function Person({ account: { id, name, role, active, last_seen } }: { account: Account }) {
  const change = useChangePerson();
  return (
    <li>
      <strong>{name}</strong>
      <Select
        aria-label={`Role of ${name}`}
        value={role}
        options={OPTIONS}
        optionLabelProp="name"
        popupMatchSelectWidth={false}
        onChange={(next) => change.mutate({ id, role: next, active })}
      />
      <span className="reading">
        {active ? (last_seen ? `signed in ${when(last_seen)}` : "never signed in") : "shut"}
      </span>
      <Button size="small" onClick={() => change.mutate({ id, role, active: !active })}>
        {active ? "Deactivate" : "Reactivate"}
        <span className="unseen"> the account of {name}</span>
      </Button>
      {change.error && <Alert type="error" showIcon title={change.error.message} />}
    </li>
  );
}
