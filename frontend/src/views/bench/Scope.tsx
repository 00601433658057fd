import { Button, Select } from "antd";
import { useDeferredValue, useState } from "react";

import type { Framing, Own, Recipe } from "../../api/client";
import { useArtwork, useShelf } from "../../api/artwork";
import { FirstMet } from "../../app/FirstMet";
import styles from "./controls.module.css";
import { type Picked, PLACES, rejoined, sizesOf, standingAlone, withFraming } from "./scope";

const DRAFTS_OWN = 0;
const LARGEST = 1024;

type Props = {
  recipe: Recipe;
  own: number;
  picked: Picked | undefined;
  /** The framing that the picked rung comes out of. */
  current: Framing | undefined;
  change: (update: (recipe: Recipe) => Recipe) => void;
  allSizes: () => void;
};

/** Which sizes the framing at hand is for, and letting the picked ones stand alone or rejoin the others. */
export function Scope({ recipe, own, picked, current, change, allSizes }: Props) {
  const alone = recipe.own?.[own];
  if (!picked) {
    return (
      <div className={styles.scope}>
        For all sizes. Choose a size below to adjust it separately.
        <FirstMet word="size" named />
        <FirstMet word="framing" named />
      </div>
    );
  }
  if (!alone) {
    const { size, purpose } = picked;
    const choices: Omit<Own, "framing">[] =
      purpose === "tab"
        ? [size, ...(size > 16 && size < 180 ? [1] : [])].map((smallest) => ({
            smallest,
            largest: size,
            purpose,
          }))
        : [{ smallest: 1, largest: LARGEST, purpose }];
    return (
      <div className={styles.scope}>
        <span>
          {purpose === "tab" ? `${size} px` : `${size} px, ${PLACES[purpose]},`} uses the shared framing.
          {purpose === "masked" && " Its frame is enlarged until the ink lies in the safe circle."}
        </span>
        {choices.map((sizes) => (
          <Button
            key={sizesOf(sizes)}
            size="small"
            onClick={() => change((now) => standingAlone(now, sizes, current ?? now.framing))}
          >
            Adjust {sizesOf(sizes)} separately
          </Button>
        ))}
        <Button size="small" onClick={allSizes}>
          All sizes together
        </Button>
      </div>
    );
  }
  return (
    <div className={styles.scope} data-alone>
      <span>
        Only for <strong>{sizesOf(alone)}</strong>
      </span>
      <OwnArtwork
        value={Number(alone.framing.artwork ?? DRAFTS_OWN)}
        set={(artwork, frame) => change((now) => withFraming(now, own, { artwork, ...frame }))}
      />
      <Button size="small" onClick={() => change((now) => rejoined(now, own))}>
        Use the shared framing
      </Button>
      <Button size="small" onClick={allSizes}>
        All sizes together
      </Button>
    </div>
  );
}

type OwnArtworkProps = {
  value: number;
  set: (artwork: string | null, part: { frame?: Recipe["framing"]["frame"] }) => void;
};

/** Another artwork for these sizes: the emblem instead of the whole logo, or a letter. */
function OwnArtwork({ value, set }: OwnArtworkProps) {
  const [search, setSearch] = useState("");
  const shelf = useShelf(useDeferredValue(search), "all", 1);
  const current = useArtwork(value || undefined);
  const pieces = shelf.data?.pieces ?? [];
  const listed =
    current.data && !search && !pieces.some(({ id }) => id === value) ? [current.data, ...pieces] : pieces;
  return (
    <Select
      size="small"
      aria-label="Artwork for these sizes"
      showSearch={{ filterOption: false, onSearch: setSearch }}
      value={value}
      options={[
        { value: DRAFTS_OWN, label: "The draft's artwork" },
        ...listed.map(({ id, title }) => ({ value: id, label: title })),
      ]}
      onChange={(id) => {
        setSearch("");
        const piece = listed.find((one) => one.id === id);
        set(piece ? String(id) : null, piece ? { frame: piece.framings.whole } : {});
      }}
    />
  );
}
