import type { Draft, Recipe } from "../api/client";

/** A change that the server does not have yet, kept in the browser by draft and by the revision it was made from. */
export type Unsaved = { revision: number; artworkId: number; recipe: Recipe };

const keyOf = (draftId: number) => `bexi-unsaved-draft-${draftId}`;

export function keepUnsaved(draftId: number, unsaved: Unsaved): void {
  try {
    localStorage.setItem(keyOf(draftId), JSON.stringify(unsaved));
  } catch {
    // A browser that keeps nothing: the warning before leaving is what is left.
  }
}

export function forgetUnsaved(draftId: number): void {
  localStorage.removeItem(keyOf(draftId));
}

/** What was left unsaved of a draft when its window was closed or lost, if anything. */
export function unsavedOf(draft: Draft): Unsaved | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(draft.id)) ?? "null") as Unsaved | null;
    const isSame = JSON.stringify(kept?.recipe) === JSON.stringify(draft.recipe);
    return kept?.artworkId === draft.artwork_id && !isSame ? kept : undefined;
  } catch {
    return undefined;
  }
}
