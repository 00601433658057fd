import { Button, Segmented } from "antd";

import type { Artwork, Framing } from "../../api/client";
import { ColourField } from "../../app/ColourField";
import { Percent } from "../../app/Percent";
import styles from "./controls.module.css";

type Finish = Framing["finish"];

type Props = { artwork: Artwork; finish: Finish; set: (finish: Finish) => void };

/** What is done to the resized artwork: sharpening of the small sizes, an outline against grounds of its own colour. */
export function FinishControls({ artwork, finish, set }: Props) {
  const own = artwork.facts.colours[0]?.colour;
  const { sharpen, outline, outline_colour } = finish;
  return (
    <fieldset className={styles.group}>
      <legend>Finish</legend>
      <span className={styles.hint}>Sharpen up to 64 px</span>
      <Segmented
        block
        aria-label="Sharpen"
        value={sharpen}
        options={[0, 1, 2, 3, 4].map((step) => ({ value: step, label: step === 0 ? "Off" : String(step) }))}
        onChange={(next) => set({ ...finish, sharpen: next })}
      />
      <Percent
        label="Weight of strokes"
        value={finish.weight ?? 0}
        least={-8}
        most={12}
        set={(next) => set({ ...finish, weight: next })}
      />
      <Percent label="Outline" value={outline} most={15} set={(next) => set({ ...finish, outline: next })} />
      {outline > 0 && (
        <ColourField
          label="Outline colour"
          value={outline_colour}
          set={(colour) => set({ ...finish, outline_colour: colour })}
        />
      )}
      {artwork.facts.one_colour && own && (
        <div className={styles.buttons}>
          <ColourField
            label="Colour of the ink"
            value={finish.recolour ?? own}
            set={(colour) => set({ ...finish, recolour: colour === own ? null : colour })}
          />
          {finish.recolour && (
            <Button size="small" onClick={() => set({ ...finish, recolour: null })}>
              Its own colour
            </Button>
          )}
        </div>
      )}
    </fieldset>
  );
}
