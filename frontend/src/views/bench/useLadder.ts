import { useEffect, useRef, useState } from "react";

import { answer, client, type Recipe, type Rung } from "../../api/client";

const SMALL = [16, 32, 48, 180];
const LARGE = [192, 512];
export const ALL_SIZES = [...SMALL, ...LARGE];

/** The icons of a recipe as they would be built. While it changes, the newest recipe is always asked for next. */
export function useLadder(artworkId: number, recipe: Recipe) {
  const [rungs, setRungs] = useState<Rung[]>([]);
  const [problem, setProblem] = useState<Error>();
  const wanted = useRef<Recipe>(undefined);
  const asking = useRef(false);

  useEffect(() => {
    const ask = (made: Recipe, sizes: number[]) =>
      answer(
        client.POST("/api/artwork/{artwork_id}/ladder", {
          params: { path: { artwork_id: artworkId } },
          body: { recipe: made, sizes },
        }),
      );
    const follow = async () => {
      asking.current = true;
      while (wanted.current) {
        const made: Recipe = wanted.current;
        wanted.current = undefined;
        try {
          const small = await ask(made, SMALL);
          setRungs((old) => [...small, ...old.filter((rung) => LARGE.includes(rung.size))]);
          setProblem(undefined);
          if (!wanted.current) setRungs([...small, ...(await ask(made, LARGE))]);
        } catch (cause) {
          setProblem(cause as Error);
        }
      }
      asking.current = false;
    };
    wanted.current = recipe;
    if (!asking.current) void follow();
  }, [artworkId, recipe]);

  return { rungs, problem };
}

export const pngOf = (rung: Rung) => `data:image/png;base64,${rung.png}`;
