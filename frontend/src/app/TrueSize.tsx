import { useSyncExternalStore } from "react";

const subscribe = (changed: () => void) => {
  const query = matchMedia(`(resolution: ${devicePixelRatio}dppx)`);
  query.addEventListener("change", changed);
  addEventListener("resize", changed);
  return () => {
    query.removeEventListener("change", changed);
    removeEventListener("resize", changed);
  };
};

export const useDevicePixelRatio = () => useSyncExternalStore(subscribe, () => devicePixelRatio);

type Props = {
  src: string;
  size: number;
  alt: string;
  times?: number;
  /** Where the picture is wider than high. */
  width?: number;
};

/** A picture `size` px high drawn one image pixel for one device pixel, or for `times` of them in each direction. */
export function TrueSize({ src, size, alt, times = 1, width = size }: Props) {
  const scale = times / useDevicePixelRatio();
  return (
    <img className="true-size" src={src} alt={alt} style={{ width: width * scale, height: size * scale }} />
  );
}

/** The same, with only its middle shown when it is larger than `room` CSS px; the caller says so beneath. */
export function TrueSizeInPart({ room, ...picture }: Props & { room: number }) {
  const scale = (picture.times ?? 1) / useDevicePixelRatio();
  const [across, down] = [(picture.width ?? picture.size) * scale, picture.size * scale];
  if (across <= room && down <= room) return <TrueSize {...picture} />;
  const [left, top] = [across, down].map((side) => Math.round((Math.min(room, side) - side) / 2));
  return (
    <div style={{ width: Math.min(room, across), height: Math.min(room, down), overflow: "hidden" }}>
      <div style={{ margin: `${top}px ${left}px` }}>
        <TrueSize {...picture} />
      </div>
    </div>
  );
}
