import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import path from "node:path";
import ts from "typescript";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { kitSchema } from "@/core/kits/kitSchema";
import { patternSchema } from "@/core/patterns/patternSchema";

const ROOT = path.join(import.meta.dirname, "../..");
/** What the framework wants a file to export under a name of its own. */
const FRAMEWORK = /^(GET|POST|PUT|PATCH|DELETE|metadata|generateMetadata|dynamic|runtime|register|config|proxy)$/;
const MOST_WIDE = 120;
const MOST_LINES = 60;
const FORMATS: readonly (readonly [string, z.ZodType])[] = [
  ["gormit-job", jobDocumentSchema],
  ["gormit-kit", kitSchema],
  ["gormit-pattern", patternSchema],
];

interface Exported {
  readonly file: string;
  readonly name: string;
  readonly isDocumented: boolean;
}

const SOURCES = execFileSync("git", ["ls-files", "-co", "--exclude-standard", "src"], { cwd: ROOT, encoding: "utf8" })
  .split("\n")
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file));

/** What a file exports by name, and whether a docblock says what it is. */
function exportsOf(file: string): readonly Exported[] {
  const source = ts.createSourceFile(file, readFileSync(path.join(ROOT, file), "utf8"), ts.ScriptTarget.Latest, true);
  return source.statements.flatMap((statement): readonly Exported[] => {
    const kinds = ts.canHaveModifiers(statement) ? (ts.getModifiers(statement) ?? []) : [];
    if (!kinds.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword)) return [];
    if (kinds.some(({ kind }) => kind === ts.SyntaxKind.DefaultKeyword)) return [];
    const isDocumented = ts.getJSDocCommentsAndTags(statement).length > 0;
    const named = ts.isVariableStatement(statement)
      ? statement.declarationList.declarations.map(({ name }) => name.getText())
      : "name" in statement && statement.name
        ? [(statement.name as ts.Identifier).text]
        : [];
    return named.map((name) => ({ file, name, isDocumented }));
  });
}

/** Functions of a file that a reader cannot see at once. */
function longFunctions(file: string): readonly string[] {
  return longIn(file, readFileSync(path.join(ROOT, file), "utf8"));
}

function longIn(file: string, text: string): readonly string[] {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const lineOf = (at: number) => source.getLineAndCharacterOfPosition(at).line;
  const found: string[] = [];
  const walk = (node: ts.Node): void => {
    const lines = lineOf(node.end) - lineOf(node.getStart()) + 1;
    if (ts.isFunctionLike(node) && lines > MOST_LINES)
      found.push(`${file}:${lineOf(node.getStart()) + 1} has ${lines} lines`);
    ts.forEachChild(node, walk);
  };
  walk(source);
  return found;
}

/** The fields of a schema that say nothing of what they are, by their paths. */
function undescribed(schema: z.ZodType): readonly string[] {
  const found: string[] = [];
  const walk = (node: unknown, at: string): void => {
    if (typeof node !== "object" || node === null) return;
    const { properties, items, additionalProperties, anyOf, oneOf, allOf, $defs } = node as Record<string, object>;
    for (const [name, field] of Object.entries(properties ?? {})) {
      const own = field as { readonly description?: string; readonly $ref?: string; readonly const?: unknown };
      if (own.description === undefined && own.$ref === undefined && own.const === undefined)
        found.push(`${at}.${name}`);
      walk(field, `${at}.${name}`);
    }
    for (const inner of [items, additionalProperties]) walk(inner, `${at}[]`);
    for (const choice of [anyOf, oneOf, allOf].flatMap((list) => (Array.isArray(list) ? (list as unknown[]) : [])))
      walk(choice, at);
    for (const [name, part] of Object.entries($defs ?? {})) walk(part, name);
  };
  walk(z.toJSONSchema(schema, { io: "input", unrepresentable: "any" }), "");
  return found;
}

describe("the habits of the house", () => {
  it("give each name one meaning: nothing is exported twice", () => {
    const seen = new Map<string, string[]>();
    for (const { file, name } of SOURCES.flatMap(exportsOf))
      if (!FRAMEWORK.test(name)) seen.set(name, [...(seen.get(name) ?? []), file]);
    expect(seen.size).toBeGreaterThan(500);
    expect([...seen].filter(([, files]) => files.length > 1)).toEqual([]);
  });

  it("say of everything that core exports what it is", () => {
    const core = SOURCES.filter((file) => file.startsWith("src/core/")).flatMap(exportsOf);
    expect(core.length).toBeGreaterThan(500);
    expect(core.filter(({ isDocumented }) => !isDocumented)).toEqual([]);
  });

  it.each(FORMATS)("say of every field of %s what it is", (_format, schema) => {
    expect(undescribed(schema)).toEqual([]);
  });

  it("keep every function of the interface under 60 lines", () => {
    const drawn = SOURCES.filter((file) => /^src\/(ui|app)\//.test(file));
    expect(drawn.length).toBeGreaterThan(100);
    expect(drawn.flatMap(longFunctions)).toEqual([]);
  });

  it("would find a function that is too long", () => {
    const text = `const draw = () => {\n${"  say();\n".repeat(MOST_LINES)}};`;
    expect(longIn("x.tsx", text)).toEqual(["x.tsx:1 has 62 lines"]);
  });

  it("keep every line within 120 characters", () => {
    const files = execFileSync("git", ["ls-files", "-co", "--exclude-standard", "src", "tests", "scripts"], {
      cwd: ROOT,
      encoding: "utf8",
    });
    const wide = files
      .split("\n")
      .filter((file) => /\.(tsx?|mjs|css|sql)$/.test(file))
      .flatMap((file) =>
        readFileSync(path.join(ROOT, file), "utf8")
          .split("\n")
          .flatMap((line, at) => ([...line].length > MOST_WIDE ? [`${file}:${at + 1}`] : [])),
      );
    expect(wide).toEqual([]);
  });

  it("would find a field that says nothing", () => {
    const schema = z.object({ a: z.string().describe("A"), b: z.array(z.object({ c: z.number() })).describe("B") });
    expect(undescribed(schema)).toEqual([".b[].c"]);
  });
});
