import type { Draft, Recipe } from "../../api/client";
import type { Unsaved } from "../../app/unsaved";

/** The draft on the bench: the recipe as it is seen here, as the server keeps it, and what came of saving it. */
export type DraftState = {
  recipe: Recipe;
  kept: Recipe;
  /** The one that the next change is made from. */
  revision: number;
  canUndo: boolean;
  canRedo: boolean;
  problem?: Error;
  /** How often saving failed since it last went well. */
  failures: number;
};

export type DraftEvent =
  | { kind: "changed"; update: (recipe: Recipe) => Recipe }
  | { kind: "saved"; sent: Recipe; stored: Draft }
  | { kind: "put"; stored: Draft }
  | { kind: "caught-up"; revision: number }
  | { kind: "failed"; problem: Error }
  | { kind: "dropped" };

/** A draft as the server told it, with what was left unsaved of it, if anything. */
export function begin(draft: Draft, left?: Unsaved): DraftState {
  const state = { recipe: left?.recipe ?? draft.recipe, kept: draft.recipe };
  return { ...state, ...standing(draft), revision: left?.revision ?? draft.revision };
}

export function reduce(state: DraftState, event: DraftEvent): DraftState {
  switch (event.kind) {
    case "changed":
      return { ...state, recipe: event.update(state.recipe) };
    case "saved": // meanwhile the recipe may have been changed again
      return { recipe: state.recipe, kept: event.sent, ...standing(event.stored) };
    case "put":
      return { recipe: event.stored.recipe, kept: event.stored.recipe, ...standing(event.stored) };
    case "caught-up":
      return { ...state, revision: event.revision };
    case "failed":
      return { ...state, problem: event.problem, failures: state.failures + 1 };
    case "dropped":
      return { ...state, recipe: state.kept };
  }
}

export const isPending = ({ recipe, kept }: DraftState) => recipe !== kept;

function standing({ revision, can_undo, can_redo }: Draft) {
  return { revision, canUndo: can_undo, canRedo: can_redo, failures: 0 };
}
