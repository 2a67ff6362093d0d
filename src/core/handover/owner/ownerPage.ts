import { lampPatterns } from "@/core/chain/lampPatterns";
import { reachSteps } from "@/core/chain/reachSteps";
import { seenDevices, type SeenDevice } from "@/core/chain/seenDevices";
import { ownerDrawing } from "@/core/handover/owner/ownerDrawing";
import type { OwnerPartId, OwnerWords } from "@/core/handover/owner/words/ownerWords";
import { OWNER_LANGUAGES, type OwnerLanguage } from "@/core/handover/owner/words/ownerLanguages";
import type { Drawing } from "@/core/drawing";
import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import { flowWord, readingTowardLoadW } from "@/core/site/flowWords";
import type { Site } from "@/core/site/planSchema";

/** A line of an owner's page. */
export interface OwnerLine {
  readonly text: string;
  /** What a maker calls it, as the kit has it, behind the line: it is read off a device. */
  readonly asOnDevice?: string;
  /** It heads the lines after it. */
  readonly isHead?: boolean;
}

/** What an owner reads: parts with a title, each a picture or a few lines. */
export interface OwnerPart {
  readonly id: OwnerPartId;
  readonly title: string;
  readonly lines: readonly OwnerLine[];
  readonly drawing?: Drawing;
}

/** The page of an owner in one language. */
export interface OwnerPage {
  readonly language: OwnerLanguage;
  readonly title: string;
  readonly foot: string;
  readonly parts: readonly OwnerPart[];
}

/** Enough to have a direction, W. */
const A_FLOW_W = 1000;
const USUAL_LAG_MIN = 15;

/**
 * The page that an owner gets, of this site's signs, lamps, devices and delays, in plain words: a picture, what the
 * display shows, what the lamps mean, where surplus goes, what is usual, what to do when the router changes, when to
 * call. Nobody's name, no serial number and no place stands in it.
 *
 * For example: a meter that counts importing as positive: "Grid: a plus is importing, a minus is exporting".
 */
export function ownerPage(document: JobDocument, language: OwnerLanguage): OwnerPage {
  const { site } = document;
  const { words } = OWNER_LANGUAGES[language];
  const seen = seenDevices(resolve(document)).filter(({ way }) => way !== undefined);
  const part = (id: OwnerPartId, lines: readonly (string | OwnerLine)[], drawing?: Drawing): OwnerPart => ({
    id,
    title: words.parts[id],
    lines: lines.map((line) => (typeof line === "string" ? { text: line } : line)),
    ...(drawing ? { drawing } : {}),
  });
  const parts = [
    part("picture", [], ownerDrawing(site, words)),
    part("shows", signLines(site, words)),
    part("lamps", lampLines(seen, words)),
    part("surplus", surplusLines(document, words)),
    part("usual", usualLines(site, seen, words)),
    part("router", routerLines(document, seen, words)),
    part("call", words.call),
  ];
  return {
    language,
    title: words.title,
    foot: words.foot,
    parts: parts.filter(({ lines, drawing }) => lines.length > 0 || drawing !== undefined),
  };
}

function signLines(site: Site, { flows, plusMinus }: OwnerWords): readonly string[] {
  return site.meters
    .flatMap((meter) =>
      meter.inputs.flatMap(({ positive, measures }): readonly string[] => {
        const run = measures[0]?.run;
        if (run === undefined) return [];
        const word = (shownW: number) => flows[flowWord(site, run, readingTowardLoadW(positive, shownW))];
        return [plusMinus(meter.name, word(A_FLOW_W), word(-A_FLOW_W))];
      }),
    )
    .filter((line, at, all) => all.indexOf(line) === at);
}

function lampLines(seen: readonly SeenDevice[], words: OwnerWords): readonly OwnerLine[] {
  return seen.flatMap(({ device: { name, kit } }) =>
    lampPatterns(kit).map(({ lamp }) => {
      const times = lamp.blinks === undefined ? "" : `, ${words.times(lamp.blinks)}`;
      const look = `${words.colours[lamp.colour] ?? lamp.colour}, ${words.rhythms[lamp.pattern]}${times}`;
      return { text: words.lamp(name, lamp.lamp, look), asOnDevice: lamp.means };
    }),
  );
}

/** Nothing where nothing takes what is left over, or nobody said in which order. */
function surplusLines({ divert, limit }: JobDocument, words: OwnerWords): readonly string[] {
  const order = divert.order ?? [];
  if (order.length === 0) return [];
  return [words.surplus(order.map((place) => words.places[place])), words.surplusRest(limit.powerW)];
}

function usualLines({ nodes }: Site, seen: readonly SeenDevice[], words: OwnerWords): readonly string[] {
  const has = (...kinds: readonly string[]) => nodes.some(({ kind }) => kinds.includes(kind));
  const lagMin = Math.max(0, ...seen.map(({ device: { kit } }) => kit.online?.firstDataMin ?? USUAL_LAG_MIN));
  return [
    ...(lagMin > 0 ? [words.lag(lagMin)] : []),
    ...(has("pv-inverter") ? [words.solarSleeps] : []),
    ...(has("battery-inverter", "hybrid-inverter") ? [words.newBattery] : []),
    ...(has("diverter") ? [words.hotTank] : []),
    ...(has("ev-charger") ? [words.chargerWaits] : []),
  ];
}

/** How each device that joins the network is joined again. */
function routerLines({ network }: JobDocument, seen: readonly SeenDevice[], words: OwnerWords): readonly OwnerLine[] {
  const lines = seen.flatMap(({ device, way, through }): readonly OwnerLine[] => {
    const target = through?.kit.kind === "dongle" ? through : device;
    const [setUp] = target.kit.online?.setUp ?? [];
    if (way !== "wifi" || (through && target === device)) return [];
    if (!setUp) return [{ text: words.asManual(target.name) }];
    const steps = reachSteps(target.kit, setUp, { serial: undefined, network, way });
    return [
      { text: `${target.name}:`, isHead: true },
      ...steps
        .filter(({ id }) => id !== "type")
        .map(({ text }, at): OwnerLine => ({ text: `${at + 1}.`, asOnDevice: text })),
    ];
  });
  return lines.length === 0 ? [] : [{ text: words.firstRouter }, ...lines];
}
