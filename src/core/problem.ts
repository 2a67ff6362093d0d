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

/**
 * Turns a function that lists problems into a Zod refinement that reports each at its path. It is asked only of what
 * has no
 * problem in its parts: whoever looks for what does not hang together may trust that every part is sound.
 */
export function refineWith<T>(problemsOf: (value: T) => readonly Problem[]) {
  return (value: T, context: z.RefinementCtx): void => {
    if (context.issues.length > 0) return;
    for (const problem of problemsOf(value)) {
      context.addIssue({ code: "custom", path: [...problem.path], message: problem.message });
    }
  };
}

/** An answer that lists more problems than this helps nobody. */
export const MOST_PROBLEMS = 100;

/**
 * What a schema found, as a sentence and the first of its problems, each at its path.
 *
 * For example: `problemsOf(error).message` gives "2 things are wrong with the request; see issues."
 */
export function problemsOf(
  error: z.ZodError,
  what = "the request",
): { readonly message: string; readonly problems: readonly Problem[] } {
  const { length } = error.issues;
  const count = length === 1 ? "One thing is" : `${length} things are`;
  const rest = length > MOST_PROBLEMS ? `; the first ${MOST_PROBLEMS} are told` : "";
  return {
    message: `${count} wrong with ${what}; see issues${rest}.`,
    problems: error.issues
      .slice(0, MOST_PROBLEMS)
      .map(({ path, message }) => ({ path: path.filter((key) => typeof key !== "symbol"), message })),
  };
}
