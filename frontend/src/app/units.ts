/** What people call a kind of background. */
export const backgroundName = (ground: "clear" | "solid" | "busy" | "checkered"): string =>
  ground === "clear" ? "transparent" : ground;

export function bytes(count: number): string {
  if (count < 1000) return `${count} B`;
  if (count < 1_000_000) return `${(count / 1000).toFixed(1)} kB`;
  return `${(count / 1_000_000).toFixed(1)} MB`;
}

export function when(moment: string): string {
  return new Date(moment).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
}

const STEPS: [number, Intl.RelativeTimeFormatUnit][] = [
  [86_400, "day"],
  [3600, "hour"],
  [60, "minute"],
];

/** How long ago, in the largest unit that fits. */
export function ago(moment: string): string {
  const seconds = (Date.now() - Date.parse(moment)) / 1000;
  const [length, unit] = STEPS.find(([length]) => seconds >= length) ?? [0, "minute"];
  if (!length) return "just now";
  return new Intl.RelativeTimeFormat("en-GB").format(-Math.floor(seconds / length), unit);
}

/** A ratio as whole numbers where they are small, like 2 : 1, else to two places, like 1.55 : 1. */
export function aspect(width: number, height: number): string {
  const divisor = greatestCommonDivisor(width, height);
  const [across, down] = [width / divisor, height / divisor];
  if (across <= 16 && down <= 16) return `${across} : ${down}`;
  return width >= height ? `${(width / height).toFixed(2)} : 1` : `1 : ${(height / width).toFixed(2)}`;
}

function greatestCommonDivisor(one: number, other: number): number {
  return other === 0 ? one : greatestCommonDivisor(other, one % other);
}
