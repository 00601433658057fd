import { use, useEffect, useRef } from "react";

import { TrueSize, TrueSizeInPart, useDevicePixelRatio } from "../../app/TrueSize";
import styles from "./rungPicture.module.css";
import { type DrawStandIn, StandIn } from "./standIn";
import { pngOf, type Step } from "./useLadder";

type Props = { rung: Step; alt: string; times?: number; room?: number };

/** The icon itself; while it is made anew a stand-in, or the former one, and either looks like what it is. */
export function RungPicture({ rung, alt, times = 1, room = Infinity }: Props) {
  const draw = use(StandIn)(rung);
  if (rung.outdated && draw && rung.size / devicePixelRatio <= room)
    return <StandInPicture rung={rung} alt={alt} times={times} draw={draw} />;
  const picture = { src: pngOf(rung), size: rung.size, alt, times };
  return (
    <span className={styles.picture} data-outdated={rung.outdated || undefined}>
      {room === Infinity ? <TrueSize {...picture} /> : <TrueSizeInPart {...picture} room={room} />}
    </span>
  );
}

type StandInProps = { rung: Step; alt: string; times: number; draw: NonNullable<DrawStandIn> };

function StandInPicture({ rung, alt, times, draw }: StandInProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const side = (rung.size * times) / useDevicePixelRatio();
  useEffect(() => {
    if (canvas.current) draw(canvas.current);
  });
  return (
    <canvas
      ref={canvas}
      className={`true-size ${styles.standIn}`}
      role="img"
      aria-label={`${alt}, a preview`}
      width={rung.size}
      height={rung.size}
      style={{ width: side, height: side }}
    />
  );
}
