import { Button, InputNumber, Segmented } from "antd";
import { Link } from "react-router";

import type { Artwork, Frame, Recipe } from "../../api/client";
import { ColourField } from "../../app/ColourField";
import { aspect } from "../../app/units";
import { ArtworkPicture } from "../artwork/ArtworkPicture";
import styles from "./bench.module.css";
import { LARGEST_SIDE, sameFrame } from "./frameGeometry";

type Props = { artwork: Artwork; recipe: Recipe; change: (part: Partial<Recipe>) => void };

export function Controls({ artwork, recipe, change }: Props) {
  const { facts } = artwork;
  return (
    <section className={styles.controls} aria-label="Frame and ground">
      <Link to="../artwork" relative="path" className={styles.card} title="Change the artwork">
        <ArtworkPicture artwork={artwork} longest={160} className={styles.thumbnail ?? ""} />
        <span>
          <strong>{artwork.title}</strong>
          <br />
          {facts.format}{" "}
          <span className="reading">
            {facts.width} × {facts.height}
          </span>
        </span>
      </Link>
      <dl className={styles.facts}>
        <dt>Shape</dt>
        <dd>
          {facts.width === facts.height ? "square" : `${aspect(facts.width, facts.height)}, not square`}
        </dd>
        <dt>Ground</dt>
        <dd>{facts.ground_colour ? `${facts.ground}, ${facts.ground_colour}` : facts.ground}</dd>
        <dt>Sharp up to</dt>
        <dd>{facts.sharp_up_to === null ? "any size" : `${facts.sharp_up_to} px`}</dd>
      </dl>
      <FrameControls artwork={artwork} frame={recipe.frame} setFrame={(frame) => change({ frame })} />
      <GroundControls recipe={recipe} change={change} />
    </section>
  );
}

type FrameProps = { artwork: Artwork; frame: Frame; setFrame: (frame: Frame) => void };

function FrameControls({ artwork, frame, setFrame }: FrameProps) {
  const { whole, inside, ink } = artwork.framings;
  const { width, height } = artwork.facts;
  const ready: [string, Frame | null | undefined][] = [
    ["Whole artwork", whole],
    ["Hug the ink", ink],
    ["Fill", width === height ? null : inside],
  ];
  return (
    <fieldset className={styles.group}>
      <legend>Frame</legend>
      <div className={styles.numbers}>
        <FrameNumber label="x" value={frame.x} min={-LARGEST_SIDE} set={(x) => setFrame({ ...frame, x })} />
        <FrameNumber label="y" value={frame.y} min={-LARGEST_SIDE} set={(y) => setFrame({ ...frame, y })} />
        <FrameNumber label="side" value={frame.side} min={1} set={(side) => setFrame({ ...frame, side })} />
      </div>
      <div className={styles.buttons}>
        {ready.map(
          ([label, target]) =>
            target && (
              <Button
                key={label}
                type={sameFrame(frame, target) ? "primary" : "default"}
                aria-pressed={sameFrame(frame, target)}
                onClick={() => setFrame(target)}
              >
                {label}
              </Button>
            ),
        )}
      </div>
      <p className={styles.hint}>{margins(frame, width, height)}</p>
    </fieldset>
  );
}

/** What becomes margin, in artwork px. */
function margins(frame: Frame, width: number, height: number): string {
  const sides = [
    ["left", -frame.x],
    ["top", -frame.y],
    ["right", frame.x + frame.side - width],
    ["bottom", frame.y + frame.side - height],
  ] as const;
  const added = sides.filter(([, extent]) => extent > 0).map(([name, extent]) => `${name} ${extent} px`);
  return added.length ? `Margin added: ${added.join(", ")}.` : "No margin: the frame lies in the artwork.";
}

type NumberProps = { label: string; value: number; min: number; set: (value: number) => void };

function FrameNumber({ label, value, min, set }: NumberProps) {
  return (
    <label className={styles.number}>
      <span>{label}</span>
      <InputNumber
        aria-label={`Frame ${label}, px`}
        value={value}
        min={min}
        max={LARGEST_SIDE}
        precision={0}
        controls={false}
        onChange={(next) => {
          if (next !== null) set(next);
        }}
      />
    </label>
  );
}

function GroundControls({ recipe, change }: Omit<Props, "artwork">) {
  const clear = recipe.ground === "clear";
  return (
    <fieldset className={styles.group}>
      <legend>Ground</legend>
      <Segmented
        block
        aria-label="Ground"
        value={clear ? "clear" : "colour"}
        options={[
          { value: "clear", label: "Clear" },
          { value: "colour", label: "Colour" },
        ]}
        onChange={(choice) => change({ ground: choice === "clear" ? "clear" : recipe.home_ground })}
      />
      {clear ? (
        <>
          <ColourField
            label="Under the home-screen icon"
            value={recipe.home_ground}
            set={(colour) => change({ home_ground: colour })}
          />
          <p className={styles.hint}>Opaque: phones fill clear parts with black.</p>
        </>
      ) : (
        <ColourField
          label="Ground colour"
          value={recipe.ground}
          set={(colour) => change({ ground: colour })}
        />
      )}
    </fieldset>
  );
}
