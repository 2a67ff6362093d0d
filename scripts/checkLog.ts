import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { checkChain, type ChainedLine } from "@/core/handover/logChain";

const NOT_CHAINED = "-";

/** Checks a file of a job's log, as `/log.chain` gives it: npm run check-log -- log.chain */
function main(): number {
  const [file] = process.argv.slice(2);
  if (file === undefined) {
    process.stderr.write("Which file? npm run check-log -- log.chain\n");
    return 2;
  }
  const lines = readFileSync(file, "utf8").split("\n").filter(Boolean).map(chainedLine);
  const {
    lines: count,
    head,
    broken,
  } = checkChain(lines, (text) => createHash("sha256").update(text, "utf8").digest("hex"));
  process.stdout.write(
    broken
      ? `Line ${broken.at} ${broken.why === "changed" ? "was changed" : "was never chained"}; before it, ${head}\n`
      : `${count} lines, each as it was written; the last is ${head}\n`,
  );
  return broken ? 1 : 0;
}

function chainedLine(line: string): ChainedLine {
  const at = line.indexOf(" ");
  const hash = line.slice(0, at);
  return { hash: hash === NOT_CHAINED ? undefined : hash, text: line.slice(at + 1) };
}

process.exitCode = main();
