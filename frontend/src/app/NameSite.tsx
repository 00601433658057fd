import { Alert, Button, Form, Input } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";

import type { Artwork, Site } from "../api/client";
import { type Judged, usePutOnBench } from "../api/judging";
import { useFoundSites } from "../api/sites";
import { useAddSite } from "../api/siteChanges";
import { Dialog } from "./Dialog";
import { HowFar } from "./HowFar";
import { SitePicker } from "./SitePicker";
import styles from "./nameSite.module.css";

const SHOWN = 8;

/** A picture came while no site was open: which one is it for? Goes on with that very picture. */
export function NameSite({ artwork, close }: { artwork: Artwork; close: () => void }) {
  const sites = useFoundSites("");
  const add = useAddSite();
  const putOnBench = usePutOnBench();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const [judged, setJudged] = useState<Judged>();
  const [problem, setProblem] = useState<Error>();
  const goOn = async (find: () => Promise<number>) => {
    setBusy(true);
    try {
      const siteId = await find();
      const draft = await putOnBench(siteId, artwork, null, setJudged);
      close();
      void navigate(`/sites/${siteId}/bench/${draft.id}`, { state: { proposals: true } });
    } catch (cause) {
      setProblem(cause as Error);
      setBusy(false);
    }
  };
  const go = ({ id }: Site) => {
    close();
    void navigate(`/sites/${id}/artwork?piece=${artwork.id}`);
  };
  const named = async ({ name }: { name: string }) =>
    (await add.mutateAsync({ name, address: "", place: "" })).id;
  return (
    <Dialog title={`Which site is ${artwork.title} for?`} close={close}>
      <Form
        layout="vertical"
        requiredMark={false}
        onFinish={(form) => void goOn(() => named(form as { name: string }))}
      >
        <Form.Item
          name="name"
          label="Name of a new site"
          extra="Its address and where its files live can be added later."
          rules={[{ required: true, whitespace: true, message: "Give the site a name." }]}
        >
          <Input maxLength={80} autoFocus />
        </Form.Item>
        {problem && <Alert type="error" showIcon title={problem.message} style={{ marginBottom: 16 }} />}
        <Button type="primary" htmlType="submit" loading={busy}>
          Add the site and open the bench
        </Button>
        {busy && judged && <HowFar judged={judged} />}
      </Form>
      {(sites.data?.length ?? 0) > 0 && (
        <>
          <p>Or one that is here already:</p>
          <div className={styles.known}>
            {sites.data?.slice(0, SHOWN).map((site) => (
              <Button key={site.id} onClick={() => go(site)}>
                {site.name}
              </Button>
            ))}
            {(sites.data?.length ?? 0) > SHOWN && (
              <SitePicker label="Another site" chosen={undefined} choose={go} />
            )}
          </div>
        </>
      )}
    </Dialog>
  );
}
