import { Modal } from "antd";
import { useNavigate } from "react-router";

import { useAddSite } from "../../api/sites";
import { SiteForm } from "./SiteForm";

/** Asks for a new site, and opens it. */
export function AddSite({ close }: { close: () => void }) {
  const add = useAddSite();
  const navigate = useNavigate();
  return (
    <Modal open getContainer={false} title="Add a site" footer={null} onCancel={close}>
      <SiteForm
        initial={{ name: "", address: "", place: "" }}
        action="Add the site"
        saving={add}
        save={(site) => add.mutate(site, { onSuccess: ({ id }) => void navigate(`/sites/${id}/artwork`) })}
      />
    </Modal>
  );
}
