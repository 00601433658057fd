import { Problem } from "../../api/client";

/** Whether asking again may work without anybody doing something: nobody answered, or not as they should. */
export const passes = (problem: Error) =>
  problem instanceof Problem && ["unreachable", "unknown"].includes(problem.code);
