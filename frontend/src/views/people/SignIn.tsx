import { Alert, Button, Form, Input } from "antd";
import { useLocation, useNavigate } from "react-router";

import { useSignIn } from "../../api/people";
import styles from "./signIn.module.css";

/** Asks for name and password, and leads back to where somebody came from. */
export function SignIn() {
  const signIn = useSignIn();
  const navigate = useNavigate();
  const { state } = useLocation() as { state: { to?: string } | null };
  return (
    <>
      <title>Sign in · Bexi</title>
      <header className={styles.bar}>bexi</header>
      <main className={styles.signIn}>
        <h1>Sign in</h1>
        <Form
          layout="vertical"
          requiredMark={false}
          onFinish={(form: { name: string; password: string }) =>
            signIn.mutate(form, { onSuccess: () => void navigate(state?.to ?? "/", { replace: true }) })
          }
        >
          <Form.Item name="name" label="Name" rules={[{ required: true, message: "Enter your name." }]}>
            <Input autoComplete="username" autoFocus spellCheck={false} />
          </Form.Item>
          <Form.Item
            name="password"
            label="Password"
            rules={[{ required: true, message: "Enter your password." }]}
          >
            <Input.Password autoComplete="current-password" />
          </Form.Item>
          {signIn.error && (
            <Alert type="error" showIcon title={signIn.error.message} style={{ marginBottom: 16 }} />
          )}
          <Button className="main-action" htmlType="submit" loading={signIn.isPending} block>
            Sign in
          </Button>
        </Form>
        <p>Forgotten it? Whoever runs Bexi can give you another: bexi user password NAME.</p>
      </main>
    </>
  );
}
