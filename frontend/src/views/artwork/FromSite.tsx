import { Alert, Empty, Modal } from "antd";

import type { PictureOnSite, Site } from "../../api/client";
import { useAddFromSite, usePicturesOnSite } from "../../api/artwork";
import { Loading } from "../../app/Loading";
import styles from "./artwork.module.css";

type Props = { site: Site; close: () => void; taken: (id: number) => void };

/** Pictures the site has already, in its folder or on its pages. */
export function FromSite({ site, close, taken }: Props) {
  const pictures = usePicturesOnSite(site.id);
  const add = useAddFromSite(site.id);
  const problem = add.error ?? pictures.error;
  const takeIn = (picture: PictureOnSite) =>
    add.mutate(picture, {
      onSuccess: (artwork) => {
        taken(artwork.id);
        close();
      },
    });
  return (
    <Modal
      open
      getContainer={false}
      title={`Pictures of ${site.name}`}
      footer={null}
      width={720}
      onCancel={close}
    >
      {problem && <Alert type="error" showIcon title={problem.message} style={{ marginBottom: 12 }} />}
      {pictures.isPending && <Loading what="Looking through the site" />}
      {pictures.data?.length === 0 && (
        <Empty description="No picture was found. Enter the site's place or address on the Install view." />
      )}
      <ul className={styles.pieces}>
        {pictures.data?.map((picture) => (
          <li key={picture.place}>
            <button
              type="button"
              className={styles.piece}
              disabled={add.isPending}
              onClick={() => takeIn(picture)}
            >
              <span className={`clear-ground ${styles.thumbnail}`}>
                <img src={thumbnailAddress(site, picture)} alt="" loading="lazy" />
              </span>
              <span className={`reading ${styles.place}`}>{picture.place}</span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}

const thumbnailAddress = (site: Site, picture: PictureOnSite) =>
  `/api/sites/${site.id}/pictures/thumbnail?${new URLSearchParams(picture)}`;
