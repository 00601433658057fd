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

type Props = { src: string; size: number; alt: string; times?: number };

/** A picture of `size` px drawn one image pixel for one device pixel, or for `times` of them in each direction. */
export function TrueSize({ src, size, alt, times = 1 }: Props) {
  const side = (size * times) / useDevicePixelRatio();
  return <img className="true-size" src={src} alt={alt} style={{ width: side, height: side }} />;
}

/** The same, with only its middle shown when it is larger than `room` CSS px; the caller says so beneath. */
export function TrueSizeInPart({ room, ...picture }: Props & { room: number }) {
  const side = (picture.size * (picture.times ?? 1)) / useDevicePixelRatio();
  if (side <= room) return <TrueSize {...picture} />;
  const offset = Math.round((room - side) / 2);
  return (
    <div style={{ width: room, height: room, overflow: "hidden" }}>
      <div style={{ margin: offset }}>
        <TrueSize {...picture} />
      </div>
    </div>
  );
}
