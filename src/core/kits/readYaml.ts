import { LineCounter, parseDocument, isMap, isScalar, isSeq, isPair, visit, type Document, type Node } from "yaml";
import type { z } from "zod";
import { MOST_PROBLEMS } from "@/core/problem";

const MAX_TEXT = 200_000;
/** A kit or pattern has a handful of aliases at most; more is an attempt to blow the text up. */
const MAX_ALIASES = 50;

/** A problem of a YAML file with the line (from 1) that it stands on. */
export interface LineProblem {
  readonly line: number;
  readonly path: readonly (string | number)[];
  readonly message: string;
}

/** A file's value, or its problems with their lines. */
export type YamlOutcome<T> =
  { readonly kind: "ok"; readonly value: T } | { readonly kind: "bad-file"; readonly problems: readonly LineProblem[] };

/**
 * Read a YAML text by a schema. All of its problems are given, each with its line and path: of the syntax,
 * else of the values.
 *
 * For example: `readYaml("kind: tree", kitSchema)` gives { kind: "bad-file", problems: [{ line: 1, path: ["kind"], …
 * }, …] }
 */
export function readYaml<S extends z.ZodType>(text: string, schema: S): YamlOutcome<z.output<S>> {
  if (text.length > MAX_TEXT)
    return bad([{ line: 1, path: [], message: `the file is longer than ${MAX_TEXT} characters` }]);
  const lines = new LineCounter();
  // The parser compares each key with all before it, so that is done here, once through.
  const document = parseDocument(text, { lineCounter: lines, prettyErrors: false, uniqueKeys: false });
  if (document.errors.length > 0) {
    return bad(
      document.errors.map((error) => ({
        line: lines.linePos(error.pos[0]).line,
        path: [],
        message: `this is not YAML: ${error.message}`,
      })),
    );
  }
  const outline = outlineOf(document, lines);
  if (outline.length > 0) return bad(outline);
  let raw: unknown;
  try {
    raw = document.toJS({ maxAliasCount: MAX_ALIASES });
  } catch (error) {
    return bad([{ line: 1, path: [], message: error instanceof Error ? error.message : "unreadable" }]);
  }
  const parsed = schema.safeParse(raw);
  if (parsed.success) return { kind: "ok", value: parsed.data };
  const problems = parsed.error.issues.map((issue) => {
    const path = issue.path.filter((key) => typeof key !== "symbol");
    const named = issue.code === "unrecognized_keys" ? issue.keys[0] : undefined;
    return {
      line: lineOf(document, lines, named === undefined ? path : [...path, named]),
      path,
      message: issue.message,
    };
  });
  return bad(problems.toSorted((a, b) => a.line - b.line));
}

/** Keys that stand twice in one map, and more aliases than a file can need: each once through the text. */
function outlineOf(document: Document, lines: LineCounter): readonly LineProblem[] {
  const problems: LineProblem[] = [];
  let aliases = 0;
  visit(document, {
    Alias: (_key, node) => {
      aliases++;
      if (aliases === MAX_ALIASES + 1)
        problems.push({
          line: lines.linePos(node.range?.[0] ?? 0).line,
          path: [],
          message: `more than ${MAX_ALIASES} aliases`,
        });
      return problems.length >= MOST_PROBLEMS ? visit.BREAK : undefined;
    },
    Map: (_key, map) => {
      const seen = new Set<string>();
      for (const { key } of map.items) {
        if (!isScalar(key)) continue;
        const name = String(key.value);
        if (seen.has(name))
          problems.push({
            line: lines.linePos(key.range?.[0] ?? 0).line,
            path: [name],
            message: `this is not YAML: the key "${name}" stands twice in one map`,
          });
        seen.add(name);
      }
      return problems.length >= MOST_PROBLEMS ? visit.BREAK : undefined;
    },
  });
  return problems.slice(0, MOST_PROBLEMS);
}

/** The line of the deepest part of the path that the file has. */
function lineOf(document: Document, lines: LineCounter, path: readonly (string | number)[]): number {
  let node: unknown = document.contents;
  let offset = (document.contents as Node | null)?.range?.[0] ?? 0;
  for (const key of path) {
    const next: { readonly value: unknown; readonly start: number | undefined } | undefined = childOf(node, key);
    if (!next) break;
    node = next.value;
    offset = next.start ?? offset;
  }
  return lines.linePos(offset).line;
}

function childOf(
  node: unknown,
  key: string | number,
): { readonly value: unknown; readonly start: number | undefined } | undefined {
  if (isMap(node)) {
    const pair = node.items.find(
      (item) => isPair(item) && String((item.key as { value?: unknown } | null)?.value) === String(key),
    );
    return pair && { value: pair.value, start: (pair.key as Node | null)?.range?.[0] };
  }
  if (isSeq(node) && typeof key === "number") {
    const item = node.items[key] as Node | undefined;
    return item && { value: item, start: item.range?.[0] };
  }
  return undefined;
}

function bad(problems: readonly LineProblem[]): {
  readonly kind: "bad-file";
  readonly problems: readonly LineProblem[];
} {
  return { kind: "bad-file", problems };
}
