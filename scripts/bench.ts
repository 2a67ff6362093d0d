import { diagnose, diagnoseInSlices } from "@/core/flows/diagnose";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { seededNormal } from "@/core/random";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";
import { houseSite, usualSheet } from "../tests/fixtures/sites";

const RUNS = 9;

/** Prints counts, median times and ratios to a single-meter diagnosis of the same run; asserts nothing. */
function main(): void {
  const oneMeter = faulty(houseSite("three-phase"));
  const twoMeters = faulty(houseSite("three-phase", { solarMeter: true }));
  const base = report("3 inputs, 5 steps, up to 2 faults", oneMeter, 2, undefined);
  report("6 inputs, 6 steps, up to 2 faults", sixSteps(twoMeters), 2, base);
  report("6 inputs, 6 steps, up to 3 faults", sixSteps(twoMeters), 3, base, 1);
  slices(sixSteps(twoMeters));
}

interface Case {
  readonly site: Site;
  readonly sheet: TestSheet;
}

function faulty(site: Site): Case {
  const fitted: Site = { ...site, cts: site.cts.map((ct, at) => at === 1 ? { ...ct, leads: "swapped" } : ct) };
  const sheet = usualSheet(site);
  return { site: fitted, sheet: { ...sheet, steps: simulateSeen(fitted, sheet, seededNormal(7)) } };
}

function sixSteps({ site, sheet }: Case): Case {
  return { site, sheet: { ...sheet, steps: [...sheet.steps, sheet.steps[0]!] } };
}

function report(name: string, { site, sheet }: Case, maxFaults: number, base: number | undefined, runs = RUNS): number {
  const times: number[] = [];
  let scored = 0;
  for (let run = 0; run < runs; run++) {
    const started = performance.now();
    const outcome = diagnose(site, { ...sheet, maxFaults });
    times.push(performance.now() - started);
    if (outcome.kind === "diagnosed") scored = outcome.diagnosis.scored;
  }
  const median = times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
  const ratio = base ? `, ${(median / base).toFixed(1)} × the first` : "";
  console.log(`${name}: ${scored} combinations, median ${median.toFixed(1)} ms of ${runs}${ratio}`);
  return median;
}

/** The longest that a diagnosis of three faults keeps its thread between two chances to stop. */
function slices({ site, sheet }: Case): void {
  const work = diagnoseInSlices(site, { ...sheet, maxFaults: 3 });
  let longest = 0;
  let count = 0;
  for (let started = performance.now(); !work.next().done; started = performance.now()) {
    longest = Math.max(longest, performance.now() - started);
    count++;
  }
  console.log(`three faults in slices: ${count} slices, longest ${longest.toFixed(0)} ms`);
}

main();
