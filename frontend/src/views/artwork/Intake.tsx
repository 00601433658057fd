import { useQueryClient } from "@tanstack/react-query";
import { Alert, Progress, Upload } from "antd";
import { useState } from "react";

import type { Artwork } from "../../api/client";
import { uploadArtwork } from "../../api/upload";
import styles from "./artwork.module.css";

type Sending = { key: number; name: string; share: number; problem?: string };

/** Where picture files are dropped or chosen. */
export function Intake({ taken }: { taken: (artwork: Artwork) => void }) {
  const queries = useQueryClient();
  const [sending, setSending] = useState<Sending[]>([]);
  const send = async (file: File) => {
    const key = performance.now();
    const change = (part: Partial<Sending>) =>
      setSending((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)));
    setSending((all) => [...all.filter((one) => !one.problem), { key, name: file.name, share: 0 }]);
    try {
      const artwork = await uploadArtwork(file, (share) => change({ share }));
      await queries.invalidateQueries({ queryKey: ["artwork"] });
      setSending((all) => all.filter((one) => one.key !== key));
      taken(artwork);
    } catch (problem) {
      change({ problem: (problem as Error).message });
    }
  };
  return (
    <div className={styles.intake}>
      <Upload.Dragger
        multiple
        showUploadList={false}
        beforeUpload={(file) => {
          void send(file);
          return false;
        }}
      >
        <strong>Drop a logo or picture here</strong>
        <br />
        or choose a file: PNG, JPEG, GIF, BMP, WebP, ICO, SVG, up to 40 MB
      </Upload.Dragger>
      {sending.map(({ key, name, share, problem }) =>
        problem ? (
          <Alert
            key={key}
            type="error"
            showIcon
            closable={{ onClose: () => setSending((all) => all.filter((one) => one.key !== key)) }}
            title={`${name}: ${problem}`}
          />
        ) : (
          <div key={key} role="status">
            {share < 1 ? `Sending ${name}` : `Measuring ${name}`}
            <Progress percent={Math.round(share * 100)} status="active" aria-label={`Sending ${name}`} />
          </div>
        ),
      )}
    </div>
  );
}
