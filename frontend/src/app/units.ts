export function bytes(count: number): string {
  if (count < 1000) return `${count} B`;
  if (count < 1_000_000) return `${(count / 1000).toFixed(1)} kB`;
  return `${(count / 1_000_000).toFixed(1)} MB`;
}

/** Under which a file made for a site is saved. */
export const fileNameOf = (name: string, size: number, format: string) =>
  `${
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "") || "icon"
  }-${size}.${format}`;

export function when(moment: string): string {
  return new Date(moment).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
}

const STEPS: [number, Intl.RelativeTimeFormatUnit][] = [
  [86_400, "day"],
  [3600, "hour"],
  [60, "minute"],
];

const LONGER: [number, string][] = [[365 * 86_400, "year"], ...STEPS];

/** How long something lasts, in the largest unit that fits, rounded up, like "up to 7 days". */
export function lasting(seconds: number): string {
  const [length, unit] = LONGER.find(([length]) => seconds >= length) ?? [60, "minute"];
  const count = Math.ceil(seconds / length);
  return `up to ${count} ${unit}${count === 1 ? "" : "s"}`;
}

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
