import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, expect, it } from "vitest";
import { z } from "zod";
import { said as saidTag } from "@/core/sentence";
import { text } from "@/core/text";

const CORE = path.join(import.meta.dirname, "../../src/core");
/** Fewer would mean that they are not found any more. */
const LEAST_RUN = 70;

interface Example {
  readonly file: string;
  readonly call: string;
  /** What it gives, with more words behind a colon where they help; undefined where it says nothing. */
  readonly said: string | undefined;
}

interface Ran extends Example {
  readonly said: string;
  readonly given: unknown;
  readonly wanted: unknown;
}

const ran: Ran[] = [];
const notRun: Example[] = [];

beforeAll(async () => {
  const files = readdirSync(CORE, { recursive: true, encoding: "utf8" }).filter((file) =>
    /^(?!.*\.test).*\.ts$/.test(file),
  );
  for (const file of files) {
    const examples = examplesIn(file);
    if (examples.length === 0) continue;
    const scope = (await import(path.join(CORE, file))) as Record<string, unknown>;
    for (const example of examples) {
      const { said } = example;
      const given = evaluated(example.call, { ...scope, said: saidTag, text, z });
      const wanted = said === undefined ? undefined : saidValue(said);
      if (given && wanted && said) ran.push({ ...example, said, given: given.value, wanted: wanted.value });
      else notRun.push(example);
    }
  }
});

it("every example of core is a call that stands by itself, and the value that it gives", () => {
  expect(notRun).toEqual([]);
});

it("every example of core that can be called gives what it says", () => {
  expect(ran.length).toBeGreaterThan(LEAST_RUN);
  const wrong = ran.filter(({ given, wanted, said }) => !isLike(given, wanted, said));
  expect(wrong.map(({ file, call, given, wanted }) => ({ file, call, given, wanted }))).toEqual([]);
});

/** The examples of a file, each from its tag to the next or to the end of its comment. */
function examplesIn(file: string): readonly Example[] {
  const comments = readFileSync(path.join(CORE, file), "utf8").match(/\/\*\*[\s\S]*?\*\//g) ?? [];
  return comments.flatMap((comment) => {
    const text = comment.replace(/^\/\*\*|\*\/$/g, "").replace(/\s*\n\s*\* ?/g, " ");
    return text
      .split(/ ?@(?=\w+ )/)
      .filter((tag) => tag.startsWith("example "))
      .map((tag) => {
        const [call, said] = tag.slice("example ".length).trim().split(" // ");
        return { file, call: call!, said };
      });
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
