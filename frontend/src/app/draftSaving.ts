import { createContext } from "react";

type Save = () => Promise<void>;

/** Lets what is outside the bench have its draft saved right now: building waits for it. */
export function newDraftSaving() {
  let save: Save | undefined;
  return {
    now: () => save?.() ?? Promise.resolve(),
    /** Called by an open bench; returns what ends it. */
    open(by: Save) {
      save = by;
      return () => {
        save = undefined;
      };
    },
  };
}

export const DraftSaving = createContext(newDraftSaving());
