import { createContext } from "react";

/** One file on its way. `share` is how much of it is sent, 0 to 1. */
export type Sending = { key: number; name: string; share: number; problem?: string };

/** Takes in picture files from wherever they come: dropped, pasted or chosen. */
export const TakingIn = createContext<(files: Iterable<File>) => void>(() => undefined);
