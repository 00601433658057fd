import { Button } from "antd";
import { type KeyboardEvent, type PointerEvent, useState } from "react";

import type { Framing, Grip, Recipe } from "../../api/client";
import styles from "./edgeGrips.module.css";
import type { Step } from "./useLadder";

/** Edges that lie nearer than this, in px, to where one was held are that one. */
const SAME = 0.25;
const KEYS: Record<string, number> = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 };

type Change = (update: (recipe: Recipe) => Recipe) => void;
type Props = { rung: Step; side: number; change: Change };

/** The edges of an icon drawn by hand, over its enlarged picture `side` CSS px large; each can be put on another px. */
export function EdgeGrips({ rung, side, change }: Props) {
  const put = (grip: Grip, px: number | undefined) => change((recipe) => held(recipe, rung, grip, px));
  return rung.grips.map((grip) => (
    <Edge
      key={`${grip.axis} ${grip.place}`}
      grip={grip}
      size={rung.size}
      side={side}
      outdated={rung.outdated}
      put={(px) => put(grip, px)}
    />
  ));
}

/** What can be done with the edges, and the way back. */
export function AboutGrips({ rung, change }: Omit<Props, "side">) {
  const moved = rung.grips.filter((grip) => grip.is_held);
  const letGo = () =>
    change((recipe) => moved.reduce((now, grip) => held(now, rung, grip, undefined), recipe));
  return (
    <p className={styles.about}>
      Drag an edge to another pixel, or choose it with Tab and move it with the arrow keys.{" "}
      {moved.length > 0 && (
        <Button size="small" onClick={letGo}>
          Put {moved.length === 1 ? "the moved edge" : `${moved.length} moved edges`} back
        </Button>
      )}
    </p>
  );
}

type EdgeProps = {
  grip: Grip;
  size: number;
  side: number;
  outdated: boolean;
  put: (px: number | undefined) => void;
};

function Edge({ grip, size, side, outdated, put }: EdgeProps) {
  const [dragged, setDragged] = useState<number>();
  const [wanted, setWanted] = useState<number>();
  const isAcross = grip.axis === "across";
  const px = dragged ?? (outdated ? wanted : undefined) ?? grip.px; // as it was put, until the icon is made again
  const putOn = (next: number | undefined) => {
    setWanted(next);
    put(next);
  };
  const within = (wanted: number) => Math.max(grip.least, Math.min(grip.most, wanted));
  const pxUnder = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!box) return px;
    const at = isAcross ? (event.clientX - box.left) / box.width : (event.clientY - box.top) / box.height;
    return within(Math.round(at * size));
  };
  const take = (event: PointerEvent<HTMLElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    setDragged(px);
  };
  const drop = () => {
    if (dragged !== undefined && dragged !== grip.px) putOn(dragged);
    setDragged(undefined);
  };
  const press = (event: KeyboardEvent) => {
    const by = KEYS[event.key];
    if (by === undefined && event.key !== "Delete") return;
    event.preventDefault();
    event.stopPropagation(); // the arrows would move the frame, too
    if (by === undefined) return putOn(undefined);
    const next = within(by > 0 ? Math.floor(px) + 1 : Math.ceil(px) - 1); // it may lie between two px
    if (next !== px) putOn(next);
  };
  const offset = `${(px / size) * side}px`;
  return (
    <span
      role="slider"
      tabIndex={0}
      className={styles.edge}
      data-axis={grip.axis}
      data-held={grip.is_held || undefined}
      style={isAcross ? { left: offset } : { top: offset }}
      aria-label={`Edge at ${grip.place} px ${grip.axis}`}
      aria-orientation={isAcross ? "horizontal" : "vertical"}
      aria-valuemin={grip.least}
      aria-valuemax={grip.most}
      aria-valuenow={px}
      aria-valuetext={`${lying(px)}${grip.is_held ? ", moved by you" : ""}`}
      onPointerDown={take}
      onPointerMove={(event) => dragged !== undefined && setDragged(pxUnder(event))}
      onPointerUp={drop}
      onPointerCancel={() => setDragged(undefined)}
      onKeyDown={press}
    />
  );
}

const lying = (px: number) =>
  Number.isInteger(px) ? `on pixel ${px}` : `between pixels ${Math.floor(px)} and ${Math.ceil(px)}`;

/** The recipe with an edge put on a px, or let go, in the framing that the icon comes out of. */
function held(recipe: Recipe, { size, own }: Step, { axis, place }: Grip, px: number | undefined): Recipe {
  const put = (framing: Framing): Framing => {
    const others = (framing.held ?? []).filter(
      (one) => one.size !== size || one.axis !== axis || Math.abs(one.place - place) >= SAME,
    );
    return { ...framing, held: px === undefined ? others : [...others, { size, axis, place, px }] };
  };
  if (own === null) return { ...recipe, framing: put(recipe.framing) };
  return {
    ...recipe,
    own: (recipe.own ?? []).map((one, number) =>
      number === own ? { ...one, framing: put(one.framing) } : one,
    ),
  };
}
