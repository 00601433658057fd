import type { Site } from "../../api/client";

/** How far the icons of a site are, and what comes next. */
export const STATES: Record<
  Site["state"],
  { sign: string; label: string; next: string; view: string; tone: string }
> = {
  empty: { sign: "○", label: "No icon yet", next: "Choose an artwork", view: "artwork", tone: "second" },
  draft: {
    sign: "◐",
    label: "Changed since the build",
    next: "Continue on the bench",
    view: "bench",
    tone: "caution",
  },
  built: {
    sign: "◑",
    label: "Built, not installed",
    next: "Install the set",
    view: "install",
    tone: "caution",
  },
  installed: {
    sign: "●",
    label: "Installed, not checked",
    next: "Check it live",
    view: "live-check",
    tone: "good",
  },
  verified: { sign: "✓", label: "Live and verified", next: "Open", view: "bench", tone: "good" },
  problems: {
    sign: "!",
    label: "Problems found",
    next: "See problems",
    view: "live-check",
    tone: "bad",
  },
};
