import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";

import type { Picture, Recipe, Rung } from "../../api/client";
import { ladderOf } from "../../api/drafts";
import { useSetPlan } from "../../api/plans";
import { passes } from "./outage";

const LARGEST_SMALL = 64;
/** The hand rests when nothing was changed for so long. */
const REST_MS = 250;
/** Between attempts to reach Bexi again, the last one again and again. */
const RETRY_MS = [500, 1000, 3000];
/** What the places beside the stage show, and what screens between take, whether the plan holds it or not. */
const SEEN: Picture[] = [
  { size: 16, purpose: "tab" },
  { size: 24, purpose: "tab" },
  { size: 32, purpose: "tab" },
  { size: 48, purpose: "tab" },
  { size: 64, purpose: "tab" },
  { size: 180, purpose: "home" },
];
const ORDER = ["tab", "home", "masked", "one-colour"];

/** A picture of the ladder; an outdated one is not of the recipe as it stands now. */
export type Step = Rung & { outdated: boolean };

/** Every picture of the site's plan, and those seen in place, in the order of the ladder. */
export function usePictures(siteId: number): Picture[] {
  const planned = useSetPlan(siteId).data?.pictures;
  return useMemo(() => {
    const all = [...(planned ?? []), ...SEEN];
    const unlike = all.filter((one, number) => all.findIndex((other) => isSame(one, other)) === number);
    return unlike.sort(
      (one, other) => ORDER.indexOf(one.purpose) - ORDER.indexOf(other.purpose) || one.size - other.size,
    );
  }, [planned]);
}

const isSmall = ({ size, purpose }: Picture) => size <= LARGEST_SMALL && purpose === "tab";
const isSame = (one: Picture, other: Picture) => one.size === other.size && one.purpose === other.purpose;

/**
 * The icons of a recipe as they would be built: the small ones follow the hand, each time the newest recipe next;
 * the others come when it rests.
 */
export function useLadder(
  { site, artwork }: Whose,
  recipe: Recipe,
  pictures: Picture[],
  ownGround: string | null,
) {
  const whose: [number, number] = [site.id, artwork.id];
  const [small, large] = useMemo(
    () => [pictures.filter(isSmall), pictures.filter((picture) => !isSmall(picture))],
    [pictures],
  );
  const [asked, setAsked] = useState(recipe);
  const rested = useRested(recipe);
  const first = useRungs(whose, asked, small, ownGround, true);
  const rest = useRungs(whose, rested, large, ownGround, rested === recipe);
  if (asked !== recipe && !first.isFetching) setAsked(recipe);
  const steps = useMemo(() => {
    const made = [...stepsOf(first, asked, recipe), ...stepsOf(rest, rested, recipe)];
    return pictures.flatMap((picture) => made.filter((rung) => isSame(rung, picture)));
  }, [pictures, recipe, asked, rested, first, rest]);
  return {
    rungs: steps,
    problem: first.error ?? rest.error ?? undefined,
    interrupted: first.failureReason ?? rest.failureReason ?? undefined,
  };
}

type Whose = { site: { id: number }; artwork: { id: number } };
type Made = { recipe: Recipe; rungs: Rung[] };
type Answered = { data: Made | undefined; isPlaceholderData: boolean };

/** Former pictures stand for the new ones meanwhile; they are outdated unless only more of them were asked for. */
function stepsOf({ data, isPlaceholderData }: Answered, asked: Recipe, recipe: Recipe): Step[] {
  const outdated = asked !== recipe || (isPlaceholderData && data?.recipe !== recipe);
  return (data?.rungs ?? []).map((rung) => ({ ...rung, outdated }));
}

const useRungs = (
  [siteId, artworkId]: [number, number],
  recipe: Recipe,
  pictures: Picture[],
  ownGround: string | null,
  enabled: boolean,
) =>
  useQuery({
    queryKey: ["ladder", siteId, artworkId, recipe, pictures, ownGround],
    queryFn: async ({ signal }): Promise<Made> => ({
      recipe,
      rungs: await ladderOf(siteId, artworkId, recipe, pictures, ownGround, signal),
    }),
    enabled: enabled && pictures.length > 0,
    placeholderData: keepPreviousData,
    // An outage ends by itself: former pictures stay meanwhile, marked as outdated.
    retry: (_, problem) => passes(problem),
    retryDelay: (failures) => RETRY_MS[Math.min(failures, RETRY_MS.length) - 1] ?? 0,
    staleTime: Infinity,
    gcTime: 10_000,
  });

/** A value once it has stayed the same for a while. */
export function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), REST_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}

export const pngOf = (rung: Rung) => `data:image/png;base64,${rung.png}`;
/** What an icon drawn by hand would be without that. */
export const plainOf = (rung: Rung) => (rung.plain ? `data:image/png;base64,${rung.plain}` : undefined);
