import type { Artwork } from "../../api/client";
import { aspect, backgroundName, bytes } from "../../app/units";
import styles from "./facts.module.css";

/** The measured facts; under each the sentence on what it means for icons. */
export function Facts({ artwork: { facts, notes } }: { artwork: Artwork }) {
  const largest = facts.sharp_up_to === null ? null : 512 / facts.sharp_up_to;
  const rows: [name: string, value: string, facts: string[]][] = [
    [
      "Format",
      `${facts.format}, ${bytes(facts.file_bytes)}`,
      ["format", "frames", "turned", "live_text", "left_out"],
    ],
    ["Size", facts.vector ? "shapes" : `${facts.width} × ${facts.height} px`, []],
    ["Shape", facts.width === facts.height ? "square" : aspect(facts.width, facts.height), ["shape"]],
    ["Background", [backgroundName(facts.ground), facts.ground_colour].filter(Boolean).join(" "), ["ground"]],
    ["Sharp up to", facts.sharp_up_to === null ? "any size" : `${facts.sharp_up_to} px`, ["sharp_up_to"]],
    ["Ink", inkShare(facts.ink_share), ["ink", "ink_share"]],
    ["Separate parts", String(facts.parts.length), ["parts"]],
  ];
  if (facts.margins) {
    const { left, top, right, bottom } = facts.margins;
    const share = (margin: number, side: number) => `${margin} px, ${((100 * margin) / side).toFixed(0)} %`;
    rows.push(["Margin left, right", `${share(left, facts.width)} · ${share(right, facts.width)}`, []]);
    rows.push(["Margin top, bottom", `${share(top, facts.height)} · ${share(bottom, facts.height)}`, []]);
  }
  if (largest !== null && largest > 1) rows.push(["At 512 px", `${largest.toFixed(1)} × enlarged`, []]);
  if (facts.profile) rows.push(["Colour profile", facts.profile, ["profile"]]);
  return (
    <dl className={styles.facts}>
      {rows.map(([name, value, about]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd className="reading">{value}</dd>
          {notes
            .filter((note) => about.includes(note.fact))
            .map((note) => (
              <dd key={note.sentence} className={styles.why} data-caution={note.caution}>
                {note.sentence}
              </dd>
            ))}
        </div>
      ))}
      <div>
        <dt>Main colours</dt>
        <dd className={styles.colours}>
          {facts.colours.map(({ colour, share }) => (
            <span key={colour} className="reading">
              <i style={{ background: colour }} /> {colour} {(share * 100).toFixed(0)} %
            </span>
          ))}
        </dd>
        {notes
          .filter((note) => note.fact === "colours")
          .map((note) => (
            <dd key={note.sentence} className={styles.why} data-caution={note.caution}>
              {note.sentence}
            </dd>
          ))}
      </div>
    </dl>
  );
}

const inkShare = (share: number) => `covers ${(share * 100).toFixed(1)} %`;
