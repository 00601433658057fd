import { Alert, App, Button } from "antd";
import { type ReactNode, useDeferredValue } from "react";
import { useNavigate } from "react-router";

import type { Drawing } from "../../../api/client";
import { useDrawingPreview, useKeepDrawing } from "../../../api/artwork";
import { GRAPHICS_NEED, standsOut } from "../../../app/colour";
import { Loading } from "../../../app/Loading";
import { useSite } from "../../../app/SiteFrame";
import { TrueSize } from "../../../app/TrueSize";
import styles from "./drawingBench.module.css";
import { LinkButton } from "../../../app/LinkButton";

type Props = {
  title: string;
  drawing: Drawing;
  complete: boolean;
  changedId: number | undefined;
  /** It is kept, or given up. */
  done: () => void;
  children: ReactNode;
};

/** Controls at the left, the drawing at true sizes at the right, and keeping it as artwork. */
export function DrawingBench({ title, drawing, complete, changedId, done, children }: Props) {
  const site = useSite();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const preview = useDrawingPreview(useDeferredValue(drawing));
  const keep = useKeepDrawing(changedId);
  const shelf = `/sites/${site.id}/artwork`;
  const save = () =>
    keep.mutate(drawing, {
      onSuccess: (artwork) => {
        done();
        void navigate(`${shelf}?piece=${artwork.id}`);
      },
      onError: (problem) => void message.error(problem.message, 8),
    });
  return (
    <main className={styles.view}>
      <section className={styles.controls} aria-label="How it is drawn">
        <h1>{title}</h1>
        {children}
        <div className={styles.actions}>
          <Button
            className="main-action"
            disabled={!complete || !!preview.error}
            loading={keep.isPending}
            onClick={save}
          >
            {changedId === undefined ? "Keep as artwork" : "Keep the change"}
          </Button>
          <LinkButton to={changedId === undefined ? shelf : `${shelf}?piece=${changedId}`} leaving={done}>
            Cancel
          </LinkButton>
        </div>
      </section>
      <section className={styles.preview} aria-label="At true size">
        {complete && preview.error && <Alert type="error" showIcon title={preview.error.message} />}
        {complete && preview.isPending && <Loading what="Drawing" />}
        {complete && preview.data && !preview.error && (
          <>
            <Contrast ratio={preview.data.contrast} />
            {(["light", "dark"] as const).map((ground) => (
              <div
                key={ground}
                className={styles.sizes}
                data-ground={ground}
                tabIndex={0}
                role="group"
                aria-label={`On a ${ground} background`}
              >
                {preview.data.pictures.map(({ size, png }) => (
                  <figure key={size}>
                    <TrueSize
                      src={`data:image/png;base64,${png}`}
                      size={size}
                      alt={`${size} px on ${ground}`}
                    />
                    <figcaption className="reading">{size} px</figcaption>
                  </figure>
                ))}
              </div>
            ))}
          </>
        )}
        {!complete && <p>Type a letter to see it.</p>}
      </section>
    </main>
  );
}

function Contrast({ ratio }: { ratio: number | null }) {
  if (ratio === null)
    return <p className="reading">No plate: it must stand out from light and dark backgrounds by itself.</p>;
  const enough = standsOut(ratio);
  return (
    <p className="reading" data-tone={enough ? "good" : "caution"}>
      Contrast of ink and plate {ratio.toFixed(1)} : 1, {enough ? "enough" : `too little: ${GRAPHICS_NEED}`}
    </p>
  );
}
