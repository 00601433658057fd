import { Segmented, Select } from "antd";
import { useState } from "react";

import type { Build, Draft, Picture, Site } from "../../api/client";
import { useDrafts, useRungsOf } from "../../api/drafts";
import { ColourField } from "../../app/ColourField";
import { Loading } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { TrueSizeInPart, useDevicePixelRatio } from "../../app/TrueSize";
import { bytes } from "../../app/units";
import styles from "./ladder.module.css";
import { pictureIn } from "./comparison";
import { Loupe } from "./Loupe";
import { RungPicture } from "./RungPicture";
import { type Picked, PLACES } from "./scope";
import { plainOf, pngOf, type Step, usePictures } from "./useLadder";
import { toneOf } from "../../app/verdict";

const ROOM = 192;
const READING = 104;
const OWN_GROUND = "#8aa7a3";

type Props = {
  site: Site;
  draft: Draft;
  rungs: Step[];
  problem: Error | undefined;
  /** Why pictures are being waited for longer than they take. */
  interrupted: Error | undefined;
  /** `light`, `dark` or a colour. */
  ground: string;
  setGround: (ground: string) => void;
  picked: Picked | undefined;
  pick: (rung: Picked | undefined) => void;
  builds: Build[];
  installed: Build | undefined;
  heldInstalled: boolean;
  heldPlain: boolean;
};

/** Every size at true pixels, the very bytes a build would write. Picking one lets it have a framing of its own. */
export function Ladder(props: Props) {
  const { site, draft, rungs, problem, interrupted, ground, setGround, picked, pick } = props;
  const { builds, installed, heldInstalled, heldPlain } = props;
  const [besideKey, setBesideKey] = useState("");
  const [times, setTimes] = useState(1);
  const beside = useBeside(site, draft, builds, besideKey);
  const ratio = useDevicePixelRatio() / times;
  const isPicked = (rung: Step) => rung.size === picked?.size && rung.purpose === picked.purpose;
  const inLoupe = rungs.find(isPicked) ?? rungs[0];
  const ownGround = ground !== "light" && ground !== "dark";
  return (
    <section className={styles.ladder} aria-label="Size ladder">
      <div className={styles.ladderHead}>
        <h2>Size ladder</h2>
        <Segmented
          block
          size="small"
          aria-label="Background of the ladder"
          value={ownGround ? "own" : ground}
          options={[
            { value: "light", label: "Light" },
            { value: "dark", label: "Dark" },
            { value: "own", label: "Own" },
          ]}
          onChange={(value) => setGround(value === "own" ? OWN_GROUND : value)}
        />
        {ownGround && <ColourField label="Behind the icons" value={ground} set={setGround} />}
        <Segmented
          size="small"
          aria-label="Screen px for each image px"
          value={times}
          options={[
            { value: 1, label: "1 ×" },
            { value: 2, label: "2 ×" },
          ]}
          onChange={setTimes}
        />
        <Select
          size="small"
          aria-label="Compare with"
          popupMatchSelectWidth={false}
          value={besideKey}
          options={[
            { value: "", label: "Compare with" },
            ...beside.drafts.map(({ id, name }) => ({ value: `draft ${id}`, label: name })),
            ...builds.map((build) => ({
              value: `build ${build.id}`,
              label: `Build ${build.number}${build.id === installed?.id ? ", installed" : ""}`,
            })),
          ]}
          onChange={setBesideKey}
        />
        <p className="reading">
          {heldInstalled && installed
            ? `Build ${installed.number}, installed`
            : heldPlain
              ? "Plain, not by hand"
              : times === 1
                ? "1 image px = 1 screen px"
                : "2 × enlarged"}
        </p>
      </div>
      {problem || (interrupted && !rungs.length) ? (
        <ProblemNotice problem={problem ?? (interrupted as Error)} />
      ) : !rungs.length ? (
        <Loading what="Making the icons" />
      ) : (
        <ol
          className={styles.rungs}
          data-dark={ground === "dark"}
          style={ownGround ? { background: ground } : {}}
          tabIndex={0}
          aria-label="Icons by size"
        >
          {rungs.map((rung) => (
            <li
              key={`${rung.size} ${rung.purpose}`}
              style={{ width: rungWidth(rung.size / ratio) * (beside.name ? 2 : 1) + (beside.name ? 8 : 0) }}
            >
              <button
                type="button"
                className={styles.rung}
                aria-pressed={isPicked(rung)}
                onClick={() => pick(isPicked(rung) ? undefined : rung)}
              >
                <span className={styles.pair}>
                  <HeldOrOwn
                    rung={rung}
                    held={
                      heldInstalled && installed
                        ? pictureIn(installed, rung)
                        : heldPlain
                          ? plainOf(rung)
                          : undefined
                    }
                    times={times}
                  />
                  {beside.name && (
                    <Beside name={beside.name} picture={beside.picture(rung)} rung={rung} times={times} />
                  )}
                </span>
                <RungReading rung={rung} ratio={ratio} interrupted={interrupted !== undefined} />
              </button>
            </li>
          ))}
        </ol>
      )}
      {inLoupe && <Loupe key={`${inLoupe.size} ${inLoupe.purpose}`} rung={inLoupe} />}
    </section>
  );
}

type HeldProps = { rung: Step; held: string | undefined; times: number };

/** The icon of the draft, or what is installed, or the plain one, while that is held up against it. */
function HeldOrOwn({ rung, held, times }: HeldProps) {
  const alt = `Icon at ${rung.size} px${placeOf(rung)}`;
  if (!held) return <RungPicture rung={rung} alt={alt} room={ROOM} times={times} />;
  return <TrueSizeInPart src={held} size={rung.size} room={ROOM} times={times} alt={alt} />;
}

/** Where the pictures to compare with come from: an earlier build, or another draft of the site. */
function useBeside(site: Site, draft: Draft, builds: Build[], key: string) {
  const drafts = (useDrafts(site.id).data ?? []).filter(({ id }) => id !== draft.id);
  const other = drafts.find(({ id }) => key === `draft ${id}`);
  const build = builds.find(({ id }) => key === `build ${id}`);
  const rungs = useRungsOf(other, usePictures(site.id)).data ?? [];
  const picture = (wanted: Picture): string | undefined => {
    if (build) return pictureIn(build, wanted);
    const rung = rungs.find((one) => one.size === wanted.size && one.purpose === wanted.purpose);
    return rung && pngOf(rung);
  };
  return { drafts, name: build ? `Build ${build.number}` : other?.name, picture };
}

type BesideProps = { name: string; picture: string | undefined; rung: Picture; times: number };

function Beside({ name, picture, rung, times }: BesideProps) {
  if (!picture) return <span className="reading">not there</span>;
  return (
    <TrueSizeInPart
      src={picture}
      size={rung.size}
      room={ROOM}
      times={times}
      alt={`${name} at ${rung.size} px`}
    />
  );
}

const placeOf = ({ purpose }: Picture) => (purpose === "tab" ? "" : `, ${PLACES[purpose]}`);

type ReadingProps = { rung: Step; ratio: number; interrupted: boolean };

/** Whole CSS px, so that every icon starts on a whole device px. */
const rungWidth = (side: number) => Math.ceil(Math.max(READING, Math.min(side, ROOM)));

function RungReading({ rung, ratio, interrupted }: ReadingProps) {
  const [word, because] = rung.says.split(/: (.*)/);
  const reason = rung.verdict ? because : undefined; // why it is not judged takes more room than there is
  return (
    <span className={`reading ${styles.rungReading}`}>
      <span>
        {rung.size} px{placeOf(rung)}
        {rung.size / ratio > ROOM ? ", middle part" : ""}
      </span>
      {rung.outdated ? (
        <span>{interrupted ? "waiting for Bexi" : "being made"}</span>
      ) : (
        <>
          <strong data-tone={toneOf(rung.verdict)}>{word}</strong>
          <span className={styles.because}>{reason ?? (rung.plain ? "by hand" : "\u00a0")}</span>
        </>
      )}
      <span>{rung.own === null ? bytes(rung.bytes) : "its own framing"}</span>
    </span>
  );
}
