import type { Install } from "../../api/client";

const STATES: Record<Install["state"], string> = {
  waiting: "in line",
  started: "under way",
  stuck: "interrupted, not put back yet",
  done: "installed",
  "put-back": "put back",
  undone: "installed, then undone",
};

/** How far an installation, or the undoing of one, has come. */
export function stateOf({ undoes, state, begun }: Pick<Install, "undoes" | "state" | "begun">): string {
  if (undoes !== null && state === "done") return "undone";
  return state === "put-back" && begun === 0 ? "not begun" : STATES[state];
}
