import { Button, InputNumber, Segmented } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";

import type { Artwork, Frame, Framing, Group, Recipe } from "../../api/client";
import { useGroups } from "../../api/judging";
import { ColourField } from "../../app/ColourField";
import { FirstMet } from "../../app/FirstMet";
import { PlateFields } from "../../app/PlateFields";
import { aspect, backgroundName } from "../../app/units";
import { ArtworkPicture } from "../artwork/ArtworkPicture";
import styles from "./controls.module.css";
import { FinishControls } from "./FinishControls";
import { LiftGround } from "./LiftGround";
import { LARGEST_SIDE, sameFrame, withMargin } from "./frameGeometry";
import { Scope } from "./Scope";
import { SmallIcons } from "./SmallIcons";
import type { Picked } from "./scope";

type Props = {
  drafts: ReactNode;
  artwork: Artwork;
  recipe: Recipe;
  own: number;
  picked: Picked | undefined;
  current: Framing | undefined;
  change: (update: (recipe: Recipe) => Recipe) => void;
  changeFraming: (part: Partial<Framing>) => void;
  allSizes: () => void;
};

export function Controls(props: Props) {
  const { drafts, artwork, recipe, own, picked, current, change, changeFraming, allSizes } = props;
  const framing = recipe.own?.[own]?.framing ?? recipe.framing;
  const { facts } = artwork;
  return (
    <section className={styles.controls} aria-label="Framing" tabIndex={0}>
      {drafts}
      <Scope {...{ recipe, own, picked, current, change, allSizes }} />
      <Link to="../artwork" relative="path" className={styles.card} title="Change the artwork">
        <ArtworkPicture artwork={artwork} longest={160} className={styles.thumbnail ?? ""} />
        <span>
          <strong title={artwork.title}>{artwork.title}</strong>
          <span className="reading">
            {facts.format} {aspect(facts.width, facts.height)}, {backgroundName(facts.ground)}
          </span>
        </span>
      </Link>
      <FrameControls
        artwork={artwork}
        frame={framing.frame}
        setFrame={(frame) => changeFraming({ frame })}
        show={(frame) => changeFraming({ frame, cut: null })}
      >
        <GroupButtons artwork={artwork} framing={framing} change={changeFraming} />
      </FrameControls>
      <GroundControls artwork={artwork} framing={framing} change={changeFraming} />
      <fieldset className={styles.group}>
        <legend>Plate</legend>
        <FirstMet word="plate" />
        <PlateFields
          plate={framing.plate}
          set={(plate) => changeFraming({ plate })}
          marginLabel="Inset"
          colours={facts.colours.map(({ colour }) => colour)}
        />
      </fieldset>
      <SmallIcons framing={framing} picked={picked} change={changeFraming} />
      <FinishControls artwork={artwork} finish={framing.finish} set={(finish) => changeFraming({ finish })} />
    </section>
  );
}

type FrameProps = {
  artwork: Artwork;
  frame: Frame;
  setFrame: (frame: Frame) => void;
  /** Frames something ready-made, of which nothing is left out. */
  show: (frame: Frame) => void;
  children: ReactNode;
};

function FrameControls({ artwork, frame, setFrame, show, children }: FrameProps) {
  const { whole, inside, ink, balanced } = artwork.framings;
  const [margin, setMargin] = useState(0);
  const hugged = ink && withMargin(ink, margin);
  const { width, height } = artwork.facts;
  const ready: [string, Frame | null | undefined][] = [
    ["Whole artwork", whole],
    ["Trim to the mark", hugged],
    ["Centre by visual weight", balanced],
    ["Fill the square", width === height ? null : inside],
  ];
  const standing = ready.find(([, target]) => target && sameFrame(frame, target))?.[0]; // of those alike the first
  return (
    <fieldset className={styles.group}>
      <legend>Frame</legend>
      <FirstMet word="frame" />
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
                type={label === standing ? "primary" : "default"}
                aria-pressed={label === standing}
                onClick={() => show(target)}
              >
                {label}
              </Button>
            ),
        )}
        {children}
      </div>
      <div className={styles.buttons}>
        {ink && (
          <label className={styles.inline}>
            Margin when trimming
            <InputNumber
              size="small"
              aria-label="Margin when trimming, %"
              value={margin}
              min={0}
              max={40}
              precision={0}
              suffix="%"
              onChange={(next) => {
                if (next === null) return;
                setMargin(next);
                if (sameFrame(frame, hugged)) setFrame(withMargin(ink, next));
              }}
            />
          </label>
        )}
      </div>
      <p className={styles.hint}>{margins(frame, width, height)}</p>
    </fieldset>
  );
}

/** Frames the emblem, one other group after the next, or the words, each alone. */
function GroupButtons({ artwork, framing, change }: GroundProps) {
  const groups = useGroups(artwork.id, artwork.version).data ?? [];
  const emblems = groups.filter(({ kind }) => kind === "emblem");
  const words = groups.find(({ kind }) => kind === "words");
  const current = emblems.findIndex((group) => sameFrame(framing.frame, group.frame));
  const show = ({ frame, cut, ground }: Group) => change({ frame, cut, ...(ground ? { ground } : {}) });
  const button = (label: string, group: Group | undefined, pressed: boolean) =>
    group && (
      <Button
        key={label}
        type={pressed ? "primary" : "default"}
        aria-pressed={pressed}
        onClick={() => show(group)}
      >
        {label}
      </Button>
    );
  if (groups.length < 2) return null;
  return (
    <>
      {button("Emblem", emblems[0], current === 0)}
      {emblems.length > 1 &&
        button("Next part", emblems[Math.max(1, (current + 1) % emblems.length)], current > 0)}
      {button("Words", words, words !== undefined && sameFrame(framing.frame, words.frame))}
    </>
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

type GroundProps = { artwork: Artwork; framing: Framing; change: (part: Partial<Framing>) => void };

function GroundControls({ artwork, framing, change }: GroundProps) {
  const { ground, home_ground = "#ffffff" } = framing;
  const clear = !ground;
  const { facts } = artwork;
  const edge = facts.ground_colour;
  const where = framing.lift_inside ? ", also inside the mark" : ", except inside the mark";
  const colours = facts.colours.map(({ colour }) => colour);
  const near = { suggested: edge ? [edge, ...colours] : colours, against: colours[0] };
  return (
    <fieldset className={styles.group}>
      <legend>Background</legend>
      <FirstMet word="background" />
      <Segmented
        block
        aria-label="Background"
        value={clear ? "clear" : "colour"}
        options={[
          { value: "clear", label: "Transparent" },
          { value: "colour", label: "Colour" },
        ]}
        onChange={(choice) => change({ ground: choice === "clear" ? null : home_ground })}
      />
      {clear ? (
        <ColourField
          {...near}
          label="Home-screen background"
          value={home_ground}
          set={(colour) => change({ home_ground: colour })}
        />
      ) : (
        <ColourField
          {...near}
          label="Background colour"
          value={ground}
          set={(colour) => change({ ground: colour })}
        />
      )}
      {clear && ["solid", "checkered"].includes(facts.ground) && !framing.lift && (
        <LiftGround artwork={artwork} />
      )}
      {framing.lift && (
        <p className={styles.hint}>
          The flat background of the picture is removed{facts.vector ? "" : where}.{" "}
          {!facts.vector && (
            <Button size="small" onClick={() => change({ lift_inside: !framing.lift_inside })}>
              {framing.lift_inside ? "Keep it inside the mark" : "Remove it inside the mark"}
            </Button>
          )}{" "}
          <Button size="small" onClick={() => change({ lift: null, lift_inside: false })}>
            Keep the background
          </Button>
        </p>
      )}
      {framing.cut && (
        <p className={styles.hint}>
          Only {framing.cut.right - framing.cut.left} × {framing.cut.bottom - framing.cut.top} px of the
          artwork are shown; the rest of it is left out.{" "}
          <Button size="small" onClick={() => change({ cut: null })}>
            Show all
          </Button>
        </p>
      )}
      {edge && edge !== ground && (
        <Button size="small" onClick={() => change({ ground: edge })}>
          The artwork's own: {edge}
        </Button>
      )}
    </fieldset>
  );
}
