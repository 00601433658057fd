import { Segmented, Select } from "antd";
import { useState } from "react";

import type { Build, Rung } from "../../api/client";
import { ProblemNotice } from "../../app/ProblemNotice";
import { TrueSizeInPart, useDevicePixelRatio } from "../../app/TrueSize";
import { bytes } from "../../app/units";
import styles from "./bench.module.css";
import { pictureIn } from "./comparison";
import { Loupe } from "./Loupe";
import type { Picked } from "./scope";
import { pngOf } from "./useLadder";

const ROOM = 192;
const READING = 64;

type Props = {
  rungs: Rung[];
  problem: Error | undefined;
  dark: boolean;
  setDark: (dark: boolean) => void;
  picked: Picked | undefined;
  pick: (rung: Picked | undefined) => void;
  builds: Build[];
  installed: Build | undefined;
  heldInstalled: boolean;
};

/** Every size at true pixels, the very bytes a build would write. Picking one lets it have a framing of its own. */
export function Ladder({
  rungs,
  problem,
  dark,
  setDark,
  picked,
  pick,
  builds,
  installed,
  heldInstalled,
}: Props) {
  const [besideId, setBesideId] = useState(0);
  const beside = builds.find(({ id }) => id === besideId);
  const ratio = useDevicePixelRatio();
  const isPicked = (rung: Rung) => rung.size === picked?.size && rung.opaque === picked.opaque;
  const inLoupe = rungs.find(isPicked) ?? rungs[0];
  return (
    <section className={styles.ladder} aria-label="Size ladder">
      <div className={styles.ladderHead}>
        <h2>Size ladder</h2>
        <Segmented
          aria-label="Ground of the ladder"
          value={dark ? "dark" : "light"}
          options={[
            { value: "light", label: "Light" },
            { value: "dark", label: "Dark" },
          ]}
          onChange={(value) => setDark(value === "dark")}
        />
        <Select
          size="small"
          aria-label="Compare with"
          popupMatchSelectWidth={false}
          value={besideId}
          options={[
            { value: 0, label: "Compare with" },
            ...builds.map((build) => ({
              value: build.id,
              label: `Build ${build.number}${build.id === installed?.id ? ", installed" : ""}`,
            })),
          ]}
          onChange={setBesideId}
        />
        <p className="reading">
          {heldInstalled ? `Build ${installed?.number}, installed` : "1 image px = 1 screen px"}
        </p>
      </div>
      {problem ? (
        <ProblemNotice problem={problem} />
      ) : (
        <ol className={styles.rungs} data-dark={dark} tabIndex={0} aria-label="Icons by size">
          {rungs.map((rung) => (
            <li
              key={rung.size}
              style={{ width: rungWidth(rung.size / ratio) * (beside ? 2 : 1) + (beside ? 8 : 0) }}
            >
              <button
                type="button"
                className={styles.rung}
                aria-pressed={isPicked(rung)}
                onClick={() => pick(isPicked(rung) ? undefined : rung)}
              >
                <span className={styles.pair}>
                  <TrueSizeInPart
                    src={(heldInstalled && installed && pictureIn(installed, rung)) || pngOf(rung)}
                    size={rung.size}
                    room={ROOM}
                    alt={`Icon at ${rung.size} px`}
                  />
                  {beside && <Beside build={beside} rung={rung} />}
                </span>
                <RungReading rung={rung} ratio={ratio} />
              </button>
            </li>
          ))}
        </ol>
      )}
      {inLoupe && <Loupe key={`${inLoupe.size} ${inLoupe.opaque}`} rung={inLoupe} />}
    </section>
  );
}

function Beside({ build, rung }: { build: Build; rung: Rung }) {
  const picture = pictureIn(build, rung);
  const alt = `Build ${build.number} at ${rung.size} px`;
  return picture ? (
    <TrueSizeInPart src={picture} size={rung.size} room={ROOM} alt={alt} />
  ) : (
    <span className="reading">not in build {build.number}</span>
  );
}

/** Whole CSS px, so that every icon starts on a whole device px. */
const rungWidth = (side: number) => Math.ceil(Math.max(READING, Math.min(side, ROOM)));

function RungReading({ rung, ratio }: { rung: Rung; ratio: number }) {
  const enlarged = rung.enlargement !== null && rung.enlargement > 1;
  return (
    <span className={`reading ${styles.rungReading}`}>
      <span>
        {rung.size} px{rung.size / ratio > ROOM ? ", middle part" : ""}
      </span>
      <span data-tone={enlarged ? "caution" : "good"}>
        {enlarged ? `${rung.enlargement?.toFixed(1)} × enlarged` : "sharp"}
      </span>
      <span>{rung.own === null ? bytes(rung.bytes) : "its own"}</span>
    </span>
  );
}
