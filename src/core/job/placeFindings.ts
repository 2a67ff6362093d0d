import { plainText, said, together, type Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { inputGain } from "@/core/flows/inputFactors";
import { predict } from "@/core/flows/predict";
import type { PlanInput, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { plannedTaps } from "@/core/site/phasors";
import { sameEntry } from "@/core/site/fitClamp";
import type { Ct, Meter, MeterInput, Site, WindowEntry } from "@/core/site/planSchema";
import { arrowWords } from "@/core/site/arrowWords";
import { nodeName } from "@/core/site/tree";
import { threeDigits } from "@/core/units";
import { inputTag } from "@/core/site/inputTag";

const SAME_GAIN = 1e-6;
const SOURCE = "CTs as fitted against the plan";

const TITLES = {
  missing: "No CT on an input",
  window: "CT on another conductor",
  ratio: "Ratio does not match",
  invert: "Sign turned by a setting",
  "twice-turned": "Turned and swapped",
  reversed: "Wrong way round",
  taps: "Voltage taps out of order",
  loose: "CT without an input",
} as const;

type PlaceCode = keyof typeof TITLES;

/**
 * What about the CTs as fitted is not as the plan wants it: missing, on another conductor, the wrong way
 * round, of another ratio, or not plugged in. One finding for each thing, each with one cure.
 *
 * For example: A CT whose arrow points the other way: `fix`, cure "Turn A2 round, or swap its two
 * leads".
 */
export function placeFindings({ site, inputs, meters }: ResolvedPlan): readonly Finding[] {
  return [
    ...predict(site, "fitted", { devices: [] }).findings,
    ...inputs.flatMap((input) => inputFindings(site, input)),
    ...meters.flatMap(({ meter }) => tapFindings(meter)),
    ...looseFindings(site),
  ];
}

/** "L1 of Main board and L1 of Shed". */
export function windowText(site: Site, around: readonly WindowEntry[]): string {
  if (around.length === 0) return "no conductor";
  return around.map((entry) => `${entry.conductor} of ${nodeName(site, entry.run)}`).join(" and ");
}

function inputFindings(site: Site, { meter, input, clamp: ct }: PlanInput): readonly Finding[] {
  const title = inputTag(site, meter.id, input.n);
  const finding = (code: PlaceCode, severity: Finding["severity"], detail: Sentence, cure: Sentence): Finding => ({
    id: `${code}:${meter.id}:${input.n}`,
    code,
    severity,
    stage: "place",
    title: TITLES[code],
    detail,
    cure,
    source: SOURCE,
    subject: ct
      ? { kind: "ct", id: ct.id, meter: meter.id, input: input.n }
      : { kind: "input", meter: meter.id, input: input.n },
  });
  if (!ct) {
    return [
      finding(
        "missing",
        "fix",
        said`${title} has no CT yet.`,
        said`Place ${title} round ${windowText(site, input.measures)}`,
      ),
    ];
  }
  const findings: Finding[] = [];
  if (!sameWindow(ct.around, input.measures)) {
    findings.push(
      finding(
        "window",
        "fix",
        said`${title} is round ${windowText(site, ct.around)}.`,
        said`Move ${title} to ${windowText(site, input.measures)}`,
      ),
    );
  }
  findings.push(...directionFindings(ct, input, title, finding));
  const gain = inputGain(input, ct);
  const reads = gain === undefined ? undefined : gain * ct.turns;
  if (reads !== undefined && Math.abs(reads - 1) > SAME_GAIN) {
    findings.push(
      finding(
        "ratio",
        "fix",
        together(
          said`${title} reads ${threeDigits(reads)} times what flows: CT ${saidRatio(ct)}, input `,
          said`set to ${input.primaryA} A.`,
        ),
        said`Set ${title} to the CT's ratio, or fit the CT that the setting is for`,
      ),
    );
  }
  if (input.invert) {
    findings.push(
      finding(
        "invert",
        "note",
        said`The sign of ${title} is turned by its invert setting.`,
        "Write the setting on the label: a CT turned later, or a new meter, would make it wrong again",
      ),
    );
  }
  return findings;
}

type MakeFinding = (code: PlaceCode, severity: Finding["severity"], detail: Sentence, cure: Sentence) => Finding;

function directionFindings(ct: Ct, input: MeterInput, title: string, finding: MakeFinding): readonly Finding[] {
  const turned = ct.arrow !== input.arrow;
  const swapped = ct.leads === "swapped";
  if (turned && swapped) {
    return [
      finding(
        "twice-turned",
        "note",
        said`${title} is turned and its leads are swapped: it reads right.`,
        "Put both straight when the cover is next off, so that nobody cures only one of them",
      ),
    ];
  }
  if (!turned && !swapped) return [];
  return [
    finding(
      "reversed",
      "fix",
      swapped
        ? said`The leads of ${title} are swapped.`
        : said`${title} points ${arrowWords(ct.arrow)}; this kit wants it ${arrowWords(input.arrow)}.`,
      swapped ? said`Swap the two leads of ${title} back` : said`Turn ${title} round, or swap its two leads`,
    ),
  ];
}

function tapFindings(meter: Meter): readonly Finding[] {
  const planned = plannedTaps(meter.taps);
  const wrong = Object.keys(meter.taps).filter((tap) => meter.taps[tap] !== planned[tap]);
  if (wrong.length === 0) return [];
  const wired = wrong.map((tap) => `${tap} is on ${meter.taps[tap]}`).join(", ");
  return [
    {
      id: `taps:${meter.id}`,
      code: "taps",
      title: TITLES.taps,
      severity: "fix",
      stage: "place",
      subject: { kind: "meter", meter: meter.id },
      source: SOURCE,
      detail: said`The voltage taps of ${meter.name} are out of order: ${wired}.`,
      cure: said`Isolate, prove dead, and wire ${wrong.map((tap) => `${tap} to ${planned[tap]}`).join(", ")}`,
    },
  ];
}

function looseFindings(site: Site): readonly Finding[] {
  return site.cts
    .filter((ct) => !ct.plug)
    .map((ct): Finding => ({
      id: `loose:${ct.id}`,
      code: "loose",
      title: TITLES.loose,
      severity: "note",
      stage: "place",
      subject: { kind: "ct", id: ct.id },
      source: SOURCE,
      detail: said`CT ${ct.id} on ${windowText(site, ct.around)} feeds no input.`,
      cure: "Plug it into the input it is meant for, or take it off the site",
    }));
}

/** "100 A : 0.333 V, 2 turns". */
export function ratioText(ct: RatioOf): string {
  return plainText(saidRatio(ct));
}

type RatioOf = Pick<Ct, "primaryA" | "secondary" | "turns">;

function saidRatio({ primaryA, secondary, turns }: RatioOf): Sentence {
  const ratio = said`${primaryA} A : ${secondary.value} ${secondary.unit}`;
  return turns > 1 ? said`${ratio}, ${turns} turns` : ratio;
}

function sameWindow(a: readonly WindowEntry[], b: readonly WindowEntry[]): boolean {
  return a.length === b.length && a.every((entry) => b.some((other) => sameEntry(entry, other)));
}
