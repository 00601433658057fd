import { type CSSProperties, useEffect, useEffectEvent, useMemo, useRef, useState } from "react";

import type { Frame } from "../../../api/client";
import { fitView, type Size, type StageView, zoomed } from "../frameGeometry";

export type Point = { x: number; y: number };
/** Where a box of the artwork lies on the stage. */
export type PlaceOf = (x: number, y: number, across: number, down: number) => CSSProperties;

/** What of the artwork is seen: fitted to artwork and frame until somebody zooms or pans. */
export function useStageView({ width, height }: Size, frame: Frame) {
  const [field, size] = useSize();
  const [own, setOwn] = useState<StageView>();
  const fitted = useMemo(() => fitView(size, { width, height }, frame), [size, width, height, frame]);
  const view = own ?? fitted;

  const onField = (event: { clientX: number; clientY: number }): Point => {
    const box = field.current?.getBoundingClientRect();
    return { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) };
  };
  const zoom = (factor: number, { x, y }: Point = { x: size.width / 2, y: size.height / 2 }) =>
    setOwn(zoomed(view, factor, x, y));
  const onWheel = useEffectEvent((event: WheelEvent) => {
    event.preventDefault();
    if (event.ctrlKey || event.metaKey) zoom(Math.exp(-event.deltaY / 200), onField(event));
    else setOwn({ ...view, x: view.x - event.deltaX, y: view.y - event.deltaY });
  });
  useEffect(() => {
    const element = field.current;
    const listen = (event: WheelEvent) => onWheel(event);
    element?.addEventListener("wheel", listen, { passive: false }); // React's own cannot keep the page from scrolling
    return () => element?.removeEventListener("wheel", listen);
  }, [field]);

  /** The point of the artwork under the pointer. */
  const pointOf = (event: { clientX: number; clientY: number }): Point => {
    const { x, y } = onField(event);
    return { x: (x - view.x) / view.scale, y: (y - view.y) / view.scale };
  };
  const place: PlaceOf = (x, y, across, down) => ({
    left: view.x + x * view.scale,
    top: view.y + y * view.scale,
    width: across * view.scale,
    height: down * view.scale,
  });
  const fit = () => setOwn(undefined);
  return [field, { scale: view.scale, pointOf, place, zoom, isOwn: own !== undefined, fit }] as const;
}

function useSize() {
  const element = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<Size>({ width: 600, height: 400 });
  useEffect(() => {
    if (!element.current) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, []);
  return [element, size] as const;
}
