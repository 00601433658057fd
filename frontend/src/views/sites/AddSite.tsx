import { Alert, Button, Form, Input } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";

import { useAddSite, useStart } from "../../api/siteChanges";
import { Dialog } from "../../app/Dialog";
import styles from "./addSite.module.css";
import { NOWHERE } from "./place";
import { SiteForm } from "./SiteForm";

/** Asks for a new site: its address is enough, or else its name. Opens it. */
export function AddSite({ close }: { close: () => void }) {
  const [byName, setByName] = useState(false);
  const add = useAddSite();
  const navigate = useNavigate();
  return (
    <Dialog title="Add a site" close={close}>
      {byName ? (
        <SiteForm
          initial={{ name: "", address: "", ...NOWHERE }}
          action="Add the site"
          saving={add}
          save={(site) => add.mutate(site, { onSuccess: ({ id }) => void navigate(`/sites/${id}/artwork`) })}
        />
      ) : (
        <>
          <ByAddress />
          <Button type="link" className={styles.byName ?? ""} onClick={() => setByName(true)}>
            It has no address yet, or enter everything by hand
          </Button>
        </>
      )}
    </Dialog>
  );
}

/** Bexi looks at the address: what the site is called, its icons, and the pictures that may be its logo. */
function ByAddress() {
  const start = useStart();
  const navigate = useNavigate();
  return (
    <Form
      layout="vertical"
      requiredMark={false}
      onFinish={({ address }: { address: string }) =>
        start.mutate(address, {
          onSuccess: ({ id }) => void navigate(`/sites/${id}/artwork`, { state: { fromSite: true } }),
        })
      }
    >
      <Form.Item
        name="address"
        label="Its address"
        extra="Bexi looks up its name, its icons and what may be its logo. Nothing is changed there."
        rules={[{ required: true, whitespace: true, message: "Type the address, like merrowmouth.example." }]}
      >
        <Input placeholder="merrowmouth.example" inputMode="url" autoFocus spellCheck={false} />
      </Form.Item>
      {start.error && (
        <Alert type="error" showIcon title={start.error.message} style={{ marginBottom: 16 }} />
      )}
      <Button type="primary" htmlType="submit" loading={start.isPending}>
        Look it up
      </Button>
    </Form>
  );
}
