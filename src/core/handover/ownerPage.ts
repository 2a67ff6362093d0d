import { lampPatterns, patternWords } from "@/core/chain/lampPatterns";
import { reachSteps } from "@/core/chain/reachSteps";
import { seenDevices, type SeenDevice } from "@/core/chain/seenDevices";
import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import { flowWord, readingTowardLoadW } from "@/core/site/flowWords";
import type { Site } from "@/core/site/planSchema";

/** What an owner reads: parts with a title, each a few lines. */
export interface OwnerPart {
  readonly id: string;
  readonly title: string;
  readonly lines: readonly string[];
}

/** Enough to have a direction, W. */
const A_FLOW_W = 1000;
const USUAL_LAG_MIN = 15;

/**
 * The page that an owner gets, of this site's signs, lamps, devices and delays, in plain words: what the display shows,
 * what the lamps mean, what is usual, what to do when the router changes, when to call. Nobody's name, no serial number
 * and no place stands in it.
 *
 * For example: a meter that counts importing as positive: "Grid: a plus is importing, a minus is exporting".
 */
export function ownerPage(document: JobDocument): readonly OwnerPart[] {
  const { site } = document;
  const seen = seenDevices(resolve(document)).filter(({ way }) => way !== undefined);
  return [
    { id: "shows", title: "What the display shows", lines: signLines(site) },
    { id: "lamps", title: "What the lamps mean", lines: lampLines(seen) },
    { id: "usual", title: "What is usual", lines: usualLines(site, seen) },
    { id: "router", title: "When the router, its name or its passphrase changes", lines: routerLines(document, seen) },
    { id: "call", title: "When to call whoever installed it", lines: CALL },
  ].filter(({ lines }) => lines.length > 0);
}

const CALL = [
  "A lamp is red, or shows the same fault for a day.",
  "Something is hot, smells or hums: switch it off as you were shown, and call at once.",
  "The display shows exporting while all is off and it is dark, or importing at noon with little on.",
  "Do not open any cover: parts behind it are live even when the supply is off.",
];

function signLines(site: Site): readonly string[] {
  return site.meters
    .flatMap((meter) =>
      meter.inputs.flatMap(({ positive, measures }): readonly string[] => {
        const run = measures[0]?.run;
        if (run === undefined) return [];
        const word = (shownW: number) => flowWord(site, run, readingTowardLoadW(positive, shownW));
        return [`${meter.name}: a plus is ${word(A_FLOW_W)}, a minus is ${word(-A_FLOW_W)}`];
      }),
    )
    .filter((line, at, all) => all.indexOf(line) === at);
}

function lampLines(seen: readonly SeenDevice[]): readonly string[] {
  return seen.flatMap(({ device: { name, kit } }) =>
    lampPatterns(kit).map(({ lamp }) => `${name}, lamp ${lamp.lamp}, ${patternWords(lamp)}: ${lamp.means}`),
  );
}

function usualLines({ nodes }: Site, seen: readonly SeenDevice[]): readonly string[] {
  const has = (...kinds: readonly string[]) => nodes.some(({ kind }) => kinds.includes(kind));
  const lagMin = Math.max(0, ...seen.map(({ device: { kit } }) => kit.online?.firstDataMin ?? USUAL_LAG_MIN));
  return [
    ...(lagMin > 0 ? [`What the phone shows may be up to ${lagMin} minutes old.`] : []),
    ...(has("pv-inverter") ? ["Without light the solar inverter sleeps, and its display is dark."] : []),
    ...(has("battery-inverter", "hybrid-inverter")
      ? ["A new battery charges first, and rests when it is full or empty."]
      : []),
    ...(has("diverter") ? ["A hot tank takes nothing: what is left over then goes into the grid."] : []),
    ...(has("ev-charger")
      ? ["A charger waits where the main fuse would be overloaded, and begins again by itself."]
      : []),
  ];
}

/** How each device that joins the network is joined again. */
function routerLines({ network }: JobDocument, seen: readonly SeenDevice[]): readonly string[] {
  return seen.flatMap(({ device, way, through }) => {
    const target = through?.kit.kind === "dongle" ? through : device;
    const [setUp] = target.kit.online?.setUp ?? [];
    if (way !== "wifi" || (through && target === device)) return [];
    if (!setUp) return [`${target.name}: enter the new network as its manual says.`];
    const steps = reachSteps(target.kit, setUp, { serial: undefined, network, way });
    return [`${target.name}:`, ...steps.filter(({ id }) => id !== "type").map(({ text }, at) => `${at + 1}. ${text}`)];
  });
}
