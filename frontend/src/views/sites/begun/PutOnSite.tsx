import { useQueryClient } from "@tanstack/react-query";
import { Alert, Button, Form, Input } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";

import { becomeSite, putOnto } from "../../../api/beginnings";
import { buildToTheEnd } from "../../../api/builds";
import type { BuildRun, Site } from "../../../api/client";
import { useFoundSites } from "../../../api/sites";
import { Dialog } from "../../../app/Dialog";
import { SitePicker } from "../../../app/SitePicker";
import { FilesBuilt } from "./FilesBuilt";
import { isAddress, nameOfAddress } from "../address";
import { NOWHERE } from "../place";
import styles from "./begun.module.css";

const SHOWN = 6;

type Props = { beginning: Site; close: () => void };

/** Says which site a picture is for: a new one, by its address or a name, or one that is here. Builds the set for it. */
export function PutOnSite({ beginning, close }: Props) {
  const sites = useFoundSites("");
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<Error>();
  const [busy, setBusy] = useState(false);
  const [run, setRun] = useState<BuildRun>();
  const goOn = async (put: () => Promise<number>) => {
    setProblem(undefined);
    setBusy(true);
    try {
      const siteId = await put();
      void queries.invalidateQueries();
      close();
      void navigate(`/sites/${siteId}/install`);
    } catch (cause) {
      setProblem(cause as Error);
      setBusy(false);
    }
  };
  const asNew = async ({ whose }: { whose: string }) => {
    const text = whose.trim();
    const told = isAddress(text) ? { name: nameOfAddress(text), address: text } : { name: text, address: "" };
    await buildToTheEnd(beginning.id, setRun);
    return (await becomeSite(beginning.id, { ...told, ...NOWHERE })).id;
  };
  const asKnown = async (site: Site) => {
    await putOnto(beginning.id, site.id);
    await buildToTheEnd(site.id, setRun).catch(() => undefined); // told in the bar of the site
    return site.id;
  };
  return (
    <Dialog title={`Which site is ${beginning.name} for?`} close={close}>
      <Form
        layout="vertical"
        requiredMark={false}
        onFinish={(form) => void goOn(() => asNew(form as { whose: string }))}
      >
        <Form.Item
          name="whose"
          label="The address of the site, or a name for it"
          extra="The set is built for it, then you say where its files live and see what would change there."
          rules={[{ required: true, whitespace: true, message: "Type an address or a name first." }]}
        >
          <Input maxLength={290} autoFocus spellCheck={false} />
        </Form.Item>
        {busy && run && <FilesBuilt run={run} />}
        {problem && <Alert type="error" showIcon title={problem.message} style={{ marginBottom: 16 }} />}
        <Button type="primary" htmlType="submit" loading={busy}>
          Put it on this site
        </Button>
      </Form>
      {(sites.data?.length ?? 0) > 0 && (
        <>
          <p>Or one that is here already:</p>
          <div className={styles.known}>
            {sites.data?.slice(0, SHOWN).map((site) => (
              <Button key={site.id} disabled={busy} onClick={() => void goOn(() => asKnown(site))}>
                {site.name}
              </Button>
            ))}
            {(sites.data?.length ?? 0) > SHOWN && (
              <SitePicker
                label="Another site"
                chosen={undefined}
                choose={(site) => void goOn(() => asKnown(site))}
              />
            )}
          </div>
        </>
      )}
    </Dialog>
  );
}
