export const HEX = /^#[0-9a-f]{6}$/i;

/** WCAG 2.2, "relative luminance". */
function luminance(colour: string): number {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((start) => {
    const channel = parseInt(colour.slice(start, start + 2), 16) / 255;
    return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

/** WCAG 2.2, "contrast ratio", 1 to 21. */
export function contrast(one: string, other: string): number {
  const [darker = 0, lighter = 0] = [luminance(one), luminance(other)].sort((a, b) => a - b);
  return (lighter + 0.05) / (darker + 0.05);
}

/** WCAG 2.2, success criterion 1.4.11: graphics ask for so much to one. */
const GRAPHICS = 3;
export const GRAPHICS_NEED = `graphics need ${GRAPHICS} : 1`;
export const standsOut = (ratio: number) => ratio >= GRAPHICS;

const KEY = "bexi-recent-colours";
const KEPT = 6;

/** Colours chosen lately on this machine, the latest first. */
export function recentColours(): string[] {
  const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? "[]");
  return Array.isArray(kept)
    ? kept.filter((one): one is string => typeof one === "string" && HEX.test(one))
    : [];
}

export function rememberColour(colour: string): void {
  const others = recentColours().filter((one) => one !== colour);
  localStorage.setItem(KEY, JSON.stringify([colour, ...others].slice(0, KEPT)));
}
