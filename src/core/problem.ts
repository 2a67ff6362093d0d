import type { z } from "zod";

/** One thing wrong with what was given: where (keys and indexes from the root) and what to do about it. */
export interface Problem {
  readonly path: readonly (string | number)[];
  readonly message: string;
}

/**
 * A problem's path as people read it.
 *
 * @example pathText(["nodes", 2, "phases", 0]) // "nodes[2].phases[0]"
 */
export function pathText(path: readonly PropertyKey[]): string {
  let text = "";
  for (const key of path) {
    if (typeof key === "number") text += `[${key}]`;
    else text += text === "" ? String(key) : `.${String(key)}`;
  }
  return text;
}

/** Turns a function that lists problems into a Zod refinement that reports each at its path. */
export function refineWith<T>(problemsOf: (value: T) => readonly Problem[]) {
  return (value: T, context: z.RefinementCtx): void => {
    for (const problem of problemsOf(value)) {
      context.addIssue({ code: "custom", path: [...problem.path], message: problem.message });
    }
  };
}
