import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useDeferredValue } from "react";

import { answer, type Artwork, client, type Frame } from "../../../api/client";
import styles from "./stage.module.css";

export type Overlay = "none" | "circle" | "rounded";

type Props = { artwork: Artwork; frame: Frame; overlay: Overlay; choose: (overlay: Overlay) => void };

/** Masks that home screens lay over an icon, and how much of the ink they would cut off. */
export function OverlayChoice({ artwork, frame, overlay, choose }: Props) {
  const asked = useDeferredValue(frame);
  const cut = useQuery({
    queryKey: ["cut-off", artwork.version, asked],
    queryFn: () =>
      answer(
        client.POST("/api/artwork/{artwork_id}/cut-off", {
          params: { path: { artwork_id: artwork.id } },
          body: asked,
        }),
      ),
    enabled: overlay !== "none",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const share = overlay === "circle" ? cut.data?.outside_circle : cut.data?.outside_rounded;
  const toggle = (which: Overlay) => choose(overlay === which ? "none" : which);
  return (
    <>
      <Button size="small" aria-pressed={overlay === "circle"} onClick={() => toggle("circle")}>
        Safe circle
      </Button>
      <Button size="small" aria-pressed={overlay === "rounded"} onClick={() => toggle("rounded")}>
        Rounded corners
      </Button>
      {overlay !== "none" && share !== undefined && (
        <span className="reading" data-tone={share > 0.005 ? "caution" : "good"} role="status">
          {(share * 100).toFixed(1)} % of the ink outside
        </span>
      )}
    </>
  );
}

/** The outline of the chosen mask within the frame. */
export function OverlayShape({ overlay }: { overlay: Overlay }) {
  return overlay === "none" ? null : <i className={styles.overlay} data-shape={overlay} aria-hidden />;
}
