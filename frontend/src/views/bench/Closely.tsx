import { Alert, Button, Checkbox, Spin } from "antd";
import { useState } from "react";

import type { CloseLook, Offer, Recipe, Site } from "../../api/client";
import { framingOf, useCloseLook } from "../../api/judging";
import { TrueSize } from "../../app/TrueSize";
import styles from "./closely.module.css";
import { AboutGrips, EdgeGrips } from "./EdgeGrips";
import { offered, type Picked, PLACES, type Reach } from "./scope";
import { pngOf, type Step, useRested } from "./useLadder";
import { kindOf, toneOf, wordOf } from "../../app/verdict";

/** The enlarged icon takes about so many CSS px, a whole number for each of its own where it is small. */
const ROOM = 176;
const sideOf = (size: number) => (size > ROOM ? ROOM : Math.floor(ROOM / size) * size);

type Props = {
  site: Site;
  artworkId: number;
  recipe: Recipe;
  rung: Step;
  ownGround: string | null;
  change: (update: (recipe: Recipe) => Recipe) => void;
  close: () => void;
};

/** One rung looked at closely: what was read of it, where on its picture, and what would be better. */
export function Closely({ site, artworkId, recipe, rung, ownGround, change, close }: Props) {
  const look = useCloseLook(site.id, artworkId, useRested(recipe), rung, ownGround);
  const [shown, setShown] = useState(["strokes", "gaps", "lettering", "vanishing"]);
  const marks = look.data?.marks;
  const side = sideOf(rung.size);
  return (
    <section className={styles.closely} aria-label={`The icon at ${rung.size} px, looked at closely`}>
      <div className={styles.head}>
        <h2>
          {rung.size} px{rung.purpose === "tab" ? "" : `, ${PLACES[rung.purpose]}`}
        </h2>
        <span data-tone={toneOf(rung.verdict)}>{rung.says}</span>
        <Button size="small" onClick={close}>
          Close
        </Button>
      </div>
      <div className={styles.enlarged}>
        <div className={styles.picture} style={{ width: side, height: side }}>
          <img
            className="clear-ground"
            src={pngOf(rung)}
            alt={`Icon at ${rung.size} px, ${(side / rung.size).toFixed(1)} times enlarged`}
            width={side}
            height={side}
          />
          {marks && <Overlay marks={marks} shown={shown} />}
          <EdgeGrips rung={rung} side={side} change={change} />
        </div>
        {marks && <Legend marks={marks} shown={shown} setShown={setShown} />}
      </div>
      {rung.grips.length > 0 && <AboutGrips rung={rung} change={change} />}
      {look.isPending && (
        <p className={styles.waiting} role="status">
          <Spin size="small" /> Measuring, and trying fixes
        </p>
      )}
      {look.error && <Alert type="error" showIcon title={look.error.message} />}
      {look.data && (
        <>
          <WaysOut look={look.data} rung={rung} change={change} />
          <Readings look={look.data} isByHand={rung.grips.length > 0} />
        </>
      )}
    </section>
  );
}

/** Each kind of place in a shape of its own, so that colour is not needed to tell them apart. */
function Overlay({ marks, shown }: { marks: CloseLook["marks"]; shown: string[] }) {
  return (
    <svg viewBox="0 0 256 256" className={styles.marks} aria-hidden>
      {shown.includes("vanishing") &&
        Object.values(marks.vanishing)
          .flat()
          .map(({ x, y }, at) => (
            <path key={at} className={styles.vanishing} d={`M${x * 256 - 3} ${y * 256 - 3}l6 6m0-6l-6 6`} />
          ))}
      {shown.includes("lettering") &&
        marks.lettering.map(({ left, top, right, bottom }, at) => (
          <rect
            key={at}
            className={styles.lettering}
            x={left * 256}
            y={top * 256}
            width={(right - left) * 256}
            height={(bottom - top) * 256}
          />
        ))}
      {shown.includes("gaps") &&
        marks.gaps.map(({ x, y }, at) => (
          <rect key={at} className={styles.gap} x={x * 256 - 2.5} y={y * 256 - 2.5} width={5} height={5} />
        ))}
      {shown.includes("strokes") &&
        marks.strokes.map(({ x, y }, at) => (
          <circle key={at} className={styles.stroke} cx={x * 256} cy={y * 256} r={2.5} />
        ))}
    </svg>
  );
}

type LegendProps = { marks: CloseLook["marks"]; shown: string[]; setShown: (shown: string[]) => void };

function Legend({ marks, shown, setShown }: LegendProps) {
  const vanishing = Object.entries(marks.vanishing).filter(([, places]) => places.length > 0);
  const found = [
    ["strokes", "● thin strokes", marks.strokes.length],
    ["gaps", "□ narrow gaps", marks.gaps.length],
    ["lettering", "▭ letters", marks.lettering.length],
    ["vanishing", `× vanishes on ${vanishing.map(([ground]) => ground).join(", ")}`, vanishing.length],
  ] as const;
  const options = found
    .filter(([, , count]) => count > 0)
    .map(([value, label]) => ({ value: value as string, label }));
  if (!options.length) return null;
  return (
    <Checkbox.Group className={styles.legend ?? ""} value={shown} options={options} onChange={setShown} />
  );
}

/** Of an icon drawn by hand it is known how many edges are on pixels. */
function Readings({ look, isByHand }: { look: CloseLook; isByHand: boolean }) {
  const { readings, contrast, fit, notes } = look.judgement;
  return (
    <>
      {notes.map((note) => (
        <p key={note} className={styles.hint}>
          {note[0]?.toUpperCase() + note.slice(1)}.
        </p>
      ))}
      <table className={styles.readings}>
        <caption className="unseen">What was read</caption>
        <tbody>
          {readings.map(({ name, noun, amount, verdict, lost, well }) => (
            <tr key={name}>
              <th scope="row">
                {noun}
                {name === "contrast" && Object.keys(contrast).length > 1 && ` on ${leastOf(contrast)}`}
              </th>
              <td className="reading">{amount}</td>
              <td data-tone={toneOf(verdict)} title={`lost below ${lost}, clear from ${well}`}>
                {wordOf(verdict)}
              </td>
            </tr>
          ))}
          {typeof fit === "number" && !isByHand && (
            <tr>
              <th scope="row">edges on pixels</th>
              <td className="reading">{Math.round(fit * 100)}%</td>
              <td />
            </tr>
          )}
        </tbody>
      </table>
    </>
  );
}

const leastOf = (contrast: Record<string, number>) =>
  Object.entries(contrast).sort(([, one], [, other]) => one - other)[0]?.[0] ?? "";

type WaysProps = {
  look: CloseLook;
  rung: Step;
  change: (update: (recipe: Recipe) => Recipe) => void;
};

function WaysOut({ look, rung, change }: WaysProps) {
  if (look.judgement.verdict === "well") return <p className={styles.hint}>Nothing to fix at this size.</p>;
  if (!look.ways_out.length)
    return (
      <p className={styles.hint}>
        None of the fixes we tried helps. A bolder drawing, a symbol or letters may serve this size.
      </p>
    );
  return (
    <>
      <h3>Fixes that help</h3>
      <ul className={styles.ways}>
        {look.ways_out.map((way) => (
          <Way key={way.kind} way={way} rung={rung} change={change} />
        ))}
      </ul>
    </>
  );
}

type WayProps = { way: Offer; rung: Picked; change: WaysProps["change"] };

function Way({ way, rung, change }: WayProps) {
  const [problem, setProblem] = useState<Error>();
  const [picture] = way.pictures;
  if (!picture) return null;
  const apply = async (reach: Reach) => {
    try {
      const framing = await framingOf(way);
      change((now) => offered(now, framing, rung, reach));
    } catch (cause) {
      setProblem(cause as Error);
    }
  };
  const src = `data:image/png;base64,${picture.png}`;
  return (
    <li className={styles.way}>
      <span className={styles.pictures}>
        {(["light", "dark"] as const).map((ground) => (
          <span key={ground} className={styles.chip} data-ground={ground}>
            <TrueSize src={src} size={rung.size} alt={`${kindOf(way.kind)}, on ${ground}`} />
          </span>
        ))}
      </span>
      <span>
        <strong>{kindOf(way.kind)}</strong>
        <br />
        <span data-tone={toneOf(picture.judgement.verdict)}>{picture.judgement.says}</span>
        <br />
        <span className="reading">{way.gain}</span>
      </span>
      <span className={styles.apply}>
        <Button size="small" onClick={() => void apply("this")}>
          {rung.purpose === "tab" ? `${rung.size} px` : PLACES[rung.purpose]}
        </Button>
        {rung.purpose === "tab" && rung.size < 180 && (
          <Button size="small" onClick={() => void apply("small")}>
            Small sizes
          </Button>
        )}
        <Button size="small" onClick={() => void apply("all")}>
          All sizes
        </Button>
      </span>
      {problem && <Alert type="error" title={problem.message} />}
    </li>
  );
}
