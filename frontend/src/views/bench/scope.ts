import type { Framing, Own, Picture, Purpose, Recipe } from "../../api/client";

/** The rung that was picked on the ladder. */
export type Picked = Picture;

const covers = (own: Own, { size, purpose }: Picked) =>
  purpose === (own.purpose ?? "tab") && size >= (own.smallest ?? 1) && size <= (own.largest ?? Infinity);

/** Number of the own framing that a picked rung takes, -1 when it goes with all sizes. */
export const ownOf = (recipe: Recipe, picked: Picked | undefined) =>
  picked ? (recipe.own ?? []).findIndex((own) => covers(own, picked)) : -1;

export const framingAt = (recipe: Recipe, own: number): Framing =>
  recipe.own?.[own]?.framing ?? recipe.framing;

export function withFraming(recipe: Recipe, own: number, part: Partial<Framing>): Recipe {
  if (own < 0) return { ...recipe, framing: { ...recipe.framing, ...part } };
  return {
    ...recipe,
    own: (recipe.own ?? []).map((one, number) =>
      number === own ? { ...one, framing: { ...one.framing, ...part } } : one,
    ),
  };
}

/** The recipe with a framing of its own for some sizes, which begins as a copy of the one they had. */
export const standingAlone = (recipe: Recipe, sizes: Omit<Own, "framing">, framing: Framing): Recipe => ({
  ...recipe,
  own: [{ ...sizes, framing }, ...(recipe.own ?? [])],
});

/** How far a way out reaches: the picked icon, the small ones of the tab together, or all. */
export type Reach = "this" | "small" | "all";

const SMALL = 48;
const LARGEST = 1024;

/** The recipe with a framing on offer; framings of their own that it covers give way. */
export function offered(recipe: Recipe, framing: Framing, { size, purpose }: Picked, reach: Reach): Recipe {
  if (reach === "all") return { ...recipe, framing, own: [] };
  const sizes =
    purpose !== "tab"
      ? { smallest: 1, largest: LARGEST, purpose }
      : reach === "this"
        ? { smallest: size, largest: size, purpose }
        : { smallest: 1, largest: Math.max(size, SMALL), purpose };
  const isCovered = (own: Own) =>
    (own.purpose ?? "tab") === purpose &&
    (own.smallest ?? 1) >= sizes.smallest &&
    (own.largest ?? LARGEST) <= sizes.largest;
  const left = (recipe.own ?? []).filter((own) => !isCovered(own));
  return { ...recipe, own: [{ ...sizes, framing }, ...left] };
}

export const rejoined = (recipe: Recipe, own: number): Recipe => ({
  ...recipe,
  own: (recipe.own ?? []).filter((_, number) => number !== own),
});

export const PLACES: Record<Purpose, string> = {
  tab: "tabs",
  home: "home screen",
  masked: "masked",
  "one-colour": "one colour",
};

export function sizesOf({ smallest = 1, largest = Infinity, purpose = "tab" }: Omit<Own, "framing">): string {
  if (purpose === "home") return "the home screen";
  if (purpose !== "tab") return `${PLACES[purpose]} icons`;
  if (smallest === largest) return `${largest} px`;
  return smallest <= 1 ? `up to ${largest} px` : `${smallest} to ${largest} px`;
}
