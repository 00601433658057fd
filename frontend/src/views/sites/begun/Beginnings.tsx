import { CloseOutlined } from "@ant-design/icons";
import { Button } from "antd";
import { Link } from "react-router";

import type { Beginning } from "../../../api/client";
import { useRemoveSite } from "../../../api/siteChanges";
import styles from "./begun.module.css";

/** What was made without a site, to go on with. */
export function Beginnings({ all }: { all: Beginning[] }) {
  const remove = useRemoveSite();
  return (
    <section aria-labelledby="without-a-site">
      <h2 id="without-a-site">Without a site</h2>
      <ul className={styles.beginnings}>
        {all.map(({ id, name, artwork_id }) => (
          <li key={id}>
            {artwork_id !== null && <img src={`/api/artwork/${artwork_id}/picture?longest=48`} alt="" />}
            <Link to={`/?begun=${id}`} title={name}>
              {name}
            </Link>
            <Button
              type="text"
              size="small"
              icon={<CloseOutlined />}
              aria-label={`Remove ${name}`}
              title="Remove; it can be restored below the list of sites"
              onClick={() => remove.mutate({ id })}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}
