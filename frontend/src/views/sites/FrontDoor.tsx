import { Alert, Button, Form, Input, Upload } from "antd";
import { use } from "react";
import { useNavigate } from "react-router";

import { useAddSite, useStart } from "../../api/siteChanges";
import { TakingIn } from "../../app/takingIn";
import styles from "./frontDoor.module.css";
import { NOWHERE } from "./place";

/** Typed like an address: a scheme, or a dot with something on both sides, and no blank. */
const ADDRESS = /^(https?:\/\/\S+|[^\s.]+(\.[^\s.]+)+\S*|localhost\S*)$/i;

/** Where everything begins: a picture dropped, pasted or chosen, a site's address, a name or initials. */
export function FrontDoor() {
  const take = use(TakingIn);
  const look = useStart();
  const add = useAddSite();
  const navigate = useNavigate();
  const problem = look.error ?? add.error;
  const begin = ({ typed }: { typed: string }) => {
    const text = typed.trim();
    if (ADDRESS.test(text)) {
      add.reset();
      look.mutate(text, {
        onSuccess: ({ id }) => void navigate(`/sites/${id}/artwork`, { state: { fromSite: true } }),
      });
    } else {
      look.reset();
      add.mutate(
        { name: text, address: "", ...NOWHERE },
        { onSuccess: ({ id }) => void navigate(`/sites/${id}/artwork/letters`) },
      );
    }
  };
  return (
    <section className={styles.door} aria-label="Begin">
      <h2>Drop a logo anywhere, or begin with one of these</h2>
      <Form className={styles.ways ?? ""} requiredMark={false} onFinish={begin}>
        <Upload
          multiple
          showUploadList={false}
          beforeUpload={(file) => {
            take([file]);
            return false;
          }}
        >
          <Button size="large">Choose a picture</Button>
        </Upload>
        <Form.Item
          name="typed"
          className={styles.typed ?? ""}
          rules={[{ required: true, whitespace: true, message: "Type an address or a name first." }]}
        >
          <Input
            size="large"
            aria-label="A site's address, a name or initials"
            placeholder="a site's address, a name or initials"
            maxLength={80}
            spellCheck={false}
          />
        </Form.Item>
        <Button size="large" htmlType="submit" loading={look.isPending || add.isPending}>
          Begin
        </Button>
      </Form>
      {problem && <Alert type="error" showIcon title={problem.message} />}
    </section>
  );
}
