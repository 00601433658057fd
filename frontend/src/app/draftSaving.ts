import { createContext } from "react";

type Save = () => Promise<boolean>;

export const NOT_SAVED =
  "The last change on the bench is not saved yet, so nothing was begun with it. See to that on the bench first.";

/** Lets what is outside the bench have its draft saved right now: building waits for it, and stops when it fails. */
export function newDraftSaving() {
  let open: { save: Save; revision: () => number } | undefined;
  return {
    /** Whether nothing is left unsaved. */
    now: () => open?.save() ?? Promise.resolve(true),
    /** The revision that an open bench shows: what is begun from there is begun with this one. */
    revision: () => open?.revision(),
    /** Called by an open bench; returns what ends it. */
    open(save: Save, revision: () => number) {
      open = { save, revision };
      return () => {
        open = undefined;
      };
    },
  };
}

export const DraftSaving = createContext(newDraftSaving());
