import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, expect, it } from "vitest";

const CORE = path.join(import.meta.dirname, "../../src/core");
/** An example of one line: a call and what it gives, with more words behind a colon where they help. */
const EXAMPLE = /@example (.+?) \/\/ (.+?)(?: \*\/)?$/;
/** Fewer would mean that they are not found any more. */
const LEAST_RUN = 70;

interface Example {
  readonly file: string;
  readonly call: string;
  readonly said: string;
}

interface Ran extends Example {
  readonly given: unknown;
  readonly wanted: unknown;
}

const ran: Ran[] = [];

/** Those whose call stands by itself and whose result is a value; the others speak of a plan that only words give. */
beforeAll(async () => {
  const files = readdirSync(CORE, { recursive: true, encoding: "utf8" }).filter((file) =>
    /^(?!.*\.test).*\.ts$/.test(file),
  );
  for (const file of files) {
    const examples = examplesIn(file);
    if (examples.length === 0) continue;
    const scope = (await import(path.join(CORE, file))) as Record<string, unknown>;
    for (const example of examples) {
      const given = evaluated(example.call, scope);
      const wanted = saidValue(example.said);
      if (given && wanted) ran.push({ ...example, given: given.value, wanted: wanted.value });
    }
  }
});

it("every example of core that can be called gives what it says", () => {
  expect(ran.length).toBeGreaterThan(LEAST_RUN);
  const wrong = ran.filter(({ given, wanted, said }) => !isLike(given, wanted, said));
  expect(wrong.map(({ file, call, given, wanted }) => ({ file, call, given, wanted }))).toEqual([]);
});

function examplesIn(file: string): readonly Example[] {
  return readFileSync(path.join(CORE, file), "utf8")
    .split("\n")
    .flatMap((line) => {
      const [, call, said] = EXAMPLE.exec(line.trimEnd()) ?? [];
      return call && said && !call.includes("…") && !said.includes("…") ? [{ file, call, said }] : [];
    });
}

function saidValue(said: string): { readonly value: unknown } | undefined {
  for (const text of [said, said.split(/[:;,]? (?!.*["\]}])/)[0]!, said.split(": ")[0]!]) {
    const found = evaluated(text, {}) ?? evaluated(text.replaceAll("−", "-"), {});
    if (found) return found;
  }
  return undefined;
}

/** A value of an expression; nothing where it does not stand by itself. */
function evaluated(expression: string, scope: Record<string, unknown>): { readonly value: unknown } | undefined {
  try {
    const names = Object.keys(scope).filter((name) => /^[A-Za-z_$][\w$]*$/.test(name) && name !== "default");
    const run = new Function(...names, `"use strict"; return (${expression});`) as (...of: unknown[]) => unknown;
    return { value: run(...names.map((name) => scope[name])) };
  } catch (error) {
    if (error instanceof ReferenceError || error instanceof SyntaxError || error instanceof TypeError) return undefined;
    throw error;
  }
}

/** Equal; numbers to the digits that the example says, objects in the parts that it names. */
function isLike(given: unknown, wanted: unknown, said: string): boolean {
  if (typeof wanted === "number" && typeof given === "number") {
    const decimals = /\.(\d+)/.exec(said)?.[1]?.length ?? 0;
    return Math.abs(given - wanted) <= 0.5 * 10 ** -decimals + 1e-9;
  }
  if (Array.isArray(wanted) && (Array.isArray(given) || ArrayBuffer.isView(given))) {
    const list = Array.from(given as ArrayLike<unknown>);
    return list.length === wanted.length && wanted.every((part, at) => isLike(list[at], part, said));
  }
  if (typeof wanted === "object" && wanted !== null && typeof given === "object" && given !== null)
    return Object.entries(wanted).every(([key, part]) => isLike((given as Record<string, unknown>)[key], part, said));
  return Object.is(given, wanted);
}
