import { useEffect, useMemo, useRef, useState } from "react";

import { answer, client, type Picture, type Recipe, type Rung } from "../../api/client";
import { useSetPlan } from "../../api/queries";

const LARGEST_SMALL = 180;
/** What the places beside the stage show, whether the plan holds it or not. */
const SEEN: Picture[] = [
  { size: 16, purpose: "tab" },
  { size: 32, purpose: "tab" },
  { size: 48, purpose: "tab" },
  { size: 180, purpose: "home" },
];
const ORDER = ["tab", "home", "masked", "one-colour"];

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

const isSmall = ({ size }: Picture) => size <= LARGEST_SMALL;
const isSame = (one: Picture, other: Picture) => one.size === other.size && one.purpose === other.purpose;

/** The icons of a recipe as they would be built. While it changes, the newest recipe is always asked for next. */
export function useLadder(artworkId: number, recipe: Recipe, pictures: Picture[]) {
  const [rungs, setRungs] = useState<Rung[]>([]);
  const [problem, setProblem] = useState<Error>();
  const wanted = useRef<{ recipe: Recipe; pictures: Picture[] }>(undefined);
  const asking = useRef(false);

  useEffect(() => {
    const ask = (made: Recipe, some: Picture[]) =>
      answer(
        client.POST("/api/artwork/{artwork_id}/ladder", {
          params: { path: { artwork_id: artworkId } },
          body: { recipe: made, pictures: some },
        }),
      );
    const follow = async () => {
      asking.current = true;
      while (wanted.current) {
        const now: { recipe: Recipe; pictures: Picture[] } = wanted.current;
        wanted.current = undefined;
        const inOrder = (made: Rung[]) =>
          now.pictures.flatMap((picture) => made.find((rung) => isSame(rung, picture)) ?? []);
        try {
          const first = await ask(now.recipe, now.pictures.filter(isSmall));
          setRungs((old) => inOrder([...first, ...old.filter((rung) => !isSmall(rung))]));
          setProblem(undefined);
          if (wanted.current) continue;
          const large = await ask(
            now.recipe,
            now.pictures.filter((picture) => !isSmall(picture)),
          );
          setRungs(inOrder([...first, ...large]));
        } catch (cause) {
          setProblem(cause as Error);
        }
      }
      asking.current = false;
    };
    wanted.current = { recipe, pictures };
    if (!asking.current) void follow();
  }, [artworkId, recipe, pictures]);

  return { rungs, problem };
}

export const pngOf = (rung: Rung) => `data:image/png;base64,${rung.png}`;
