import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { createHash } from "node:crypto";
import { afterAll, expect, test } from "vitest";
import { CHAIN_BEGIN, linkText } from "@/core/handover/logChain";

const folder = mkdtempSync(path.join(tmpdir(), "gormit-log-"));
afterAll(() => rmSync(folder, { recursive: true }));

const sha256 = (text: string) => createHash("sha256").update(text).digest("hex");

/** A chained log as a file has it. */
function chained(texts: readonly string[]): readonly string[] {
  let head = CHAIN_BEGIN;
  return texts.map((text) => {
    head = sha256(linkText(head, text));
    return `${head} ${text}`;
  });
}

function check(lines: readonly string[]) {
  const file = path.join(folder, "log.chain");
  writeFileSync(file, `${lines.join("\n")}\n`);
  const { status, stdout } = spawnSync(process.execPath, ["--import", "tsx", "scripts/checkLog.ts", file], {
    encoding: "utf8",
  });
  return { status, stdout };
}

test("a log file is checked by a command: whole, changed, cut in the middle", () => {
  const lines = chained(['{"text": "one"}', '{"text": "two, with a space"}', '{"text": "three"}']);
  expect(check(lines)).toMatchObject({ status: 0, stdout: expect.stringContaining("3 lines") as string });
  const changed = check(lines.with(1, lines[1]!.replace("two", "2")));
  expect(changed).toMatchObject({ status: 1, stdout: expect.stringContaining("Line 2 was changed") as string });
  expect(check(lines.toSpliced(1, 1)).stdout).toContain("Line 2 was changed");
  expect(check(["- {}"]).stdout).toContain("Line 1 was never chained");
});
