import {
  type CSSProperties,
  type RefObject,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
} from "react";

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
    const zooms = event.ctrlKey || event.metaKey;
    if (!zooms && pageScrolls()) return;
    event.preventDefault();
    if (zooms) zoom(Math.exp(-event.deltaY / 200), onField(event));
    else setOwn({ ...view, x: view.x - event.deltaX, y: view.y - event.deltaY });
  });
  useEffect(() => {
    const element = field.current;
    const listen = (event: WheelEvent) => onWheel(event);
    element?.addEventListener("wheel", listen, { passive: false }); // React's own cannot keep the page from scrolling
    return () => element?.removeEventListener("wheel", listen);
  }, [field]);
  useTwoFingers(field, (factor, middle) => zoom(factor, onField(middle)));

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

/** Where the page is longer than the window by more than a line or two, the wheel is needed to scroll it. */
const pageScrolls = () => document.documentElement.scrollHeight > 1.1 * innerHeight;

type Middle = { clientX: number; clientY: number };

/** Two fingers on an element: by how much they went apart since they moved last, and the point between them. */
function useTwoFingers(
  element: RefObject<HTMLElement | null>,
  spread: (factor: number, middle: Middle) => void,
) {
  const apart = useRef(0);
  const onTouch = useEffectEvent((event: TouchEvent) => {
    const [one, other] = event.touches;
    if (!one || !other) {
      apart.current = 0;
      return;
    }
    event.preventDefault(); // neither the page's scrolling nor its zoom
    const now = Math.hypot(one.clientX - other.clientX, one.clientY - other.clientY);
    const middle = { clientX: (one.clientX + other.clientX) / 2, clientY: (one.clientY + other.clientY) / 2 };
    if (apart.current > 0 && now > 0) spread(now / apart.current, middle);
    apart.current = now;
  });
  useEffect(() => {
    const field = element.current;
    const listen = (event: TouchEvent) => onTouch(event);
    const kinds = ["touchstart", "touchmove", "touchend", "touchcancel"] as const;
    for (const kind of kinds) field?.addEventListener(kind, listen, { passive: false });
    return () => {
      for (const kind of kinds) field?.removeEventListener(kind, listen);
    };
  }, [element]);
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
