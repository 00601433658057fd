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

/** A picture of `size` px drawn one image pixel for one device pixel. */
export function TrueSize({ src, size, alt }: { src: string; size: number; alt: string }) {
  const side = size / useDevicePixelRatio();
  return <img className="true-size" src={src} alt={alt} style={{ width: side, height: side }} />;
}

/** The same, with only its middle shown when it is larger than `room` CSS px; says so beneath. */
export function TrueSizeInPart(props: { src: string; size: number; alt: string; room: number }) {
  const { room, ...picture } = props;
  const side = picture.size / useDevicePixelRatio();
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
