import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import ts from "typescript";
import { describe, expect, it } from "vitest";

/** Attributes that a person reads, or hears. */
const READ_ATTRIBUTES = /^(aria-label|alt|caption|heading|hint|label|placeholder|question|send|title|warning)$/;
/** Attributes that only the program reads. */
const SILENT_ATTRIBUTES = /^(accept|d|style|[a-zA-Z]*[cC]lassName)$/;
const WORD = /\p{L}{2}/u;
/** Two words after each other, or a word after a number. */
const SENTENCE = /\p{L}{2,}[,.:;]? \p{L}{2,}|^\d+ \p{L}{2,}/u;
/** Names of looks and parts of a page; keys of a keyboard; dates as date-fns writes them; a line of a CAN log. */
const NO_WORDS = /(^|\s)(md:|max-md:|hover:|text-|bg-|btn|flex|grid|rounded)|^Ctrl |MMM|, select$|color-mix|#\d|GHz/;
/** What core calls a thing, and what groups the edits of one field for undo. */
const NAMED_FOR_THE_PROGRAM = /^not seen$|^(battery|heater) (power|set-point|speed|there)$|^owed tests source$/;

const TEXTS = execFileSync("git", ["ls-files", "src/ui", "src/app"], { encoding: "utf8" })
  .split("\n")
  .filter((file) => /\.tsx$|^src\/ui\/.*\.ts$/.test(file) && !/\.test\.|^src\/ui\/words\//.test(file));
const CATALOGUES = execFileSync("git", ["ls-files", "src/ui/words"], { encoding: "utf8" })
  .split("\n")
  .filter((file) => /Words\.ts$/.test(file));

/** Words of a source file that stand beside the catalogue. */
function besideCatalogue(file: string, source: string): readonly string[] {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true);
  const found: string[] = [];
  const note = (node: ts.Node, text: string) =>
    found.push(`${file}:${tree.getLineAndCharacterOfPosition(node.getStart()).line + 1}: ${text.trim()}`);
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || isDirective(node)) return;
    if (ts.isJsxAttribute(node)) {
      if (SILENT_ATTRIBUTES.test(node.name.getText())) return;
      const value = node.initializer && ts.isStringLiteral(node.initializer) ? node.initializer.text : "";
      if (READ_ATTRIBUTES.test(node.name.getText()) && WORD.test(value) && !NO_WORDS.test(value))
        return void note(node, value);
    }
    if (ts.isJsxText(node) && WORD.test(node.text)) note(node, node.text);
    const isText = ts.isStringLiteralLike(node) || isPiece(node);
    if (isText && SENTENCE.test(node.text) && !NO_WORDS.test(node.text) && !isForProgram(node)) note(node, node.text);
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}

function isPiece(node: ts.Node): node is ts.TemplateHead | ts.TemplateMiddle | ts.TemplateTail {
  return ts.isTemplateHead(node) || ts.isTemplateMiddleOrTemplateTail(node);
}

function isDirective(node: ts.Node): boolean {
  return ts.isExpressionStatement(node) && ts.isStringLiteral(node.expression);
}

/** What only the program reads: a key of a record, a name of its own, an error that says which part of it is wrong. */
function isForProgram(node: ts.LiteralLikeNode): boolean {
  const made = ts.isTemplateHead(node) ? node.parent : ts.isTemplateSpan(node.parent) ? node.parent.parent : node;
  const isKey = ts.isPropertyAssignment(node.parent) && node.parent.name === (node as ts.Node);
  return isKey || ts.isNewExpression(made.parent) || NAMED_FOR_THE_PROGRAM.test(node.text);
}

/** The words that a catalogue holds, by their keys. */
function keysOf(file: string): readonly string[] {
  return [...readFileSync(file, "utf8").matchAll(/^ {2}(\w+):/gm)].map(([, key]) => key!);
}

describe("the catalogue of the app's words", () => {
  it("is the one place where they stand", () => {
    expect(TEXTS.length).toBeGreaterThan(200);
    expect(TEXTS.flatMap((file) => besideCatalogue(file, readFileSync(file, "utf8")))).toEqual([]);
  });

  it("would find words that stand beside it", () => {
    const source = `
      const a = <p className="flex gap-2" aria-label="Findings">Nothing is wrong</p>;
      const b = { "a key": 1, said: \`Step \${at} is read again\` };`;
    expect(besideCatalogue("x.tsx", source)).toEqual([
      "x.tsx:2: Findings",
      "x.tsx:2: Nothing is wrong",
      "x.tsx:3: is read again",
    ]);
  });

  it("holds no word that is said nowhere", () => {
    const said = new Set(
      TEXTS.flatMap((file) => [...readFileSync(file, "utf8").matchAll(/\b[A-Z]+_WORDS\.\w+/g)].map(([word]) => word)),
    );
    const unsaid = CATALOGUES.flatMap((file) => {
      const [, name] = /export const (\w+) =/.exec(readFileSync(file, "utf8"))!;
      return keysOf(file).flatMap((key) => (said.has(`${name}.${key}`) ? [] : [`${name}.${key}`]));
    });
    expect(CATALOGUES.length).toBeGreaterThan(15);
    expect(unsaid).toEqual([]);
  });
});
