import { Alert, Button, Form, Input } from "antd";
import { useNavigate } from "react-router";

import type { Me } from "../../api/client";
import { ROLE_NAMES } from "../../api/me";
import { ROLES } from "./roles";
import { useChangePassword, useSignOut } from "../../api/people";
import styles from "./ownAccount.module.css";
import shared from "./people.module.css";

/** What somebody may do, signing out, and another password. */
export function OwnAccount({ me }: { me: Me }) {
  const signOut = useSignOut();
  const navigate = useNavigate();
  const leave = (everywhere: boolean) =>
    signOut.mutate(everywhere, { onSuccess: () => void navigate("/sign-in") });
  return (
    <section className={shared.card} aria-labelledby="own">
      <h2 id="own">You</h2>
      <p>
        Your role is <strong>{ROLE_NAMES[me.role]}</strong>: it {ROLES[me.role]}
        {me.role === "looks" ? "." : ", and all that the roles before it do."}
      </p>
      <div className={styles.actions}>
        <Button onClick={() => leave(false)}>Sign out</Button>
        <Button onClick={() => leave(true)}>Sign out everywhere</Button>
      </div>

      <Password />
    </section>
  );
}

type Passwords = { old: string; new: string };

function Password() {
  const change = useChangePassword();
  const [form] = Form.useForm<Passwords>();
  return (
    <Form
      form={form}
      layout="vertical"
      requiredMark={false}
      className={shared.fields}
      onFinish={(passwords) => change.mutate(passwords, { onSuccess: () => form.resetFields() })}
    >
      <Form.Item
        name="old"
        label="Old password"
        rules={[{ required: true, message: "Enter the old password." }]}
      >
        <Input.Password autoComplete="current-password" />
      </Form.Item>
      <Form.Item
        name="new"
        label="New password, at least 12 characters"
        rules={[{ required: true, min: 12, message: "At least 12 characters." }]}
      >
        <Input.Password autoComplete="new-password" />
      </Form.Item>
      <Button htmlType="submit" loading={change.isPending}>
        Change the password
      </Button>
      {change.error && <Alert type="error" showIcon title={change.error.message} />}
      {change.isSuccess && (
        <Alert type="success" showIcon title="Changed. Every other session of yours has ended." />
      )}
    </Form>
  );
}
