import { Alert, Button, Form, Input } from "antd";
import { use, useRef } from "react";
import { useNavigate, useSearchParams } from "react-router";

import { useBeginnings } from "../../api/beginnings";
import { useStart } from "../../api/siteChanges";
import { later } from "../../app/later";
import { TakingIn } from "../../app/takingIn";
import styles from "./frontDoor.module.css";
import { isAddress } from "./address";

const Begun = later(async () => (await import("./begun/Begun")).Begun);
const Beginnings = later(async () => (await import("./begun/Beginnings")).Beginnings);
const LettersOffered = later(async () => (await import("./begun/LettersOffered")).LettersOffered);

const LONGEST_NAME = 80;

/** Where everything begins: a picture dropped, pasted or chosen, a site's address, a name or initials. */
export function FrontDoor() {
  const take = use(TakingIn);
  const look = useStart();
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const begun = Number(query.get("begun"));
  const named = query.get("letters");
  const beginnings = useBeginnings().data ?? [];
  const others = beginnings.filter(({ id }) => id !== begun);
  const picker = useRef<HTMLInputElement>(null);
  const setLetters = (name: string) => {
    look.reset();
    void navigate(`/?${new URLSearchParams({ letters: name.slice(0, LONGEST_NAME) })}`);
  };
  const begin = ({ typed }: { typed: string }) => {
    const text = typed.trim();
    if (isAddress(text)) {
      look.mutate(text, {
        onSuccess: ({ id }) => void navigate(`/sites/${id}/artwork`, { state: { fromSite: true } }),
      });
    } else {
      setLetters(text);
    }
  };
  return (
    <>
      <section className={styles.door} aria-label="Begin">
        <h2>Drop a logo anywhere, or begin with one of these</h2>
        <input
          ref={picker}
          type="file"
          multiple
          hidden
          aria-label="Pictures"
          onChange={(event) => {
            take([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
        <Form className={styles.ways ?? ""} requiredMark={false} onFinish={begin}>
          <Button size="large" onClick={() => picker.current?.click()}>
            Choose a picture
          </Button>
          <Form.Item
            name="typed"
            className={styles.typed ?? ""}
            rules={[{ required: true, whitespace: true, message: "Type an address or a name first." }]}
          >
            <Input
              size="large"
              aria-label="A site's address, a name or initials"
              placeholder="a site's address, a name or initials"
              maxLength={290}
              spellCheck={false}
            />
          </Form.Item>
          <Button size="large" htmlType="submit" loading={look.isPending}>
            Begin
          </Button>
        </Form>
        {look.error && (
          <Alert
            type="error"
            showIcon
            title={look.error.message}
            action={
              <Button onClick={() => setLetters(look.variables)}>It’s a name: show letters for it</Button>
            }
          />
        )}
      </section>
      {begun > 0 && <Begun key={begun} siteId={begun} />}
      {named && <LettersOffered key={named} name={named} />}
      {others.length > 0 && <Beginnings all={others} />}
    </>
  );
}
