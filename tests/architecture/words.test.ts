import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import ts from "typescript";
import { describe, expect, it } from "vitest";

/** What an electrician would not say here, and what is said instead; a tool keeps its own name. */
const TERMS: readonly (readonly [RegExp, string])[] = [
  [/\bclamps?\b(?! meter)/i, "CT"],
  [/(?<!cable )\bclips?\b/i, "CT"],
  [/\bschools?\b/i, "method"],
  [/\bruns? to\b/i, "circuit of"],
  [/\b(the|this|that|one|no|a|its) runs?\b(?! (the|sheet))/i, "circuit"],
  [/\bto put right\b/i, "to fix"],
  [/(?<!other )\bsources off\b/i, "PV and battery off"],
];

/** Every text of a source file that a person may read: sentences in strings, and what stands in a page. */
function textsOf(file: string, source: string): readonly string[] {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true);
  const texts: string[] = [];
  const visit = (node: ts.Node): void => {
    const isText =
      ts.isStringLiteral(node) ||
      ts.isNoSubstitutionTemplateLiteral(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddleOrTemplateTail(node) ||
      ts.isJsxText(node);
    const isLook = ts.isJsxAttribute(node) && node.name.getText() === "className";
    if (isText && /[a-z] /i.test(node.text) && !isThrown(node) && !isSelector(node.text)) texts.push(node.text);
    if (!isLook && !ts.isImportDeclaration(node)) ts.forEachChild(node, visit);
  };
  visit(tree);
  return texts;
}

/** Of an error that says which part of the program is wrong: no technician reads it. */
function isThrown({ parent }: ts.Node): boolean {
  const made = ts.isTemplateSpan(parent) ? parent.parent.parent : parent;
  return ts.isNewExpression(ts.isTemplateExpression(made) ? made.parent : made);
}

/** Names of looks and parts of a page, with their signs. */
function isSelector(text: string): boolean {
  return /(^|\s)(max-md:|md:|line-clamp|text-|flex|rounded)|\[data-/.test(text);
}

describe("an electrician's words", () => {
  it("are the only ones in what a person may read", () => {
    const files = execFileSync("git", ["ls-files", "src/core", "src/ui", "src/app"], { encoding: "utf8" })
      .split("\n")
      .filter((file) => /\.tsx?$/.test(file) && !file.includes(".test."));
    // Only a file that has such a word anywhere, in a name or a comment too, is looked at closely.
    const wrong = files
      .map((file) => [file, readFileSync(file, "utf8")] as const)
      .filter(([, source]) => TERMS.some(([term]) => term.test(source)))
      .flatMap(([file, source]) =>
        textsOf(file, source).flatMap((text) =>
          TERMS.filter(([term]) => term.test(text)).map(([, instead]) => `${file}: "${text.trim()}": say ${instead}`),
        ),
      );
    expect(wrong).toEqual([]);
  });

  it("would notice one that is not", () => {
    const texts = textsOf(
      "a.tsx",
      'const a = "Turn the clamp round"; const b = <p className="line-clamp-2">A clip is on</p>;',
    );
    expect(texts.filter((text) => TERMS.some(([term]) => term.test(text)))).toEqual([
      "Turn the clamp round",
      "A clip is on",
    ]);
  });
});
