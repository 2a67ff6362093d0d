import { PRACTICE_OPTIONS, type PracticeId } from "@/core/kits/practiceSchema";
import type { Kit } from "@/core/kits/kitSchema";
import type { schoolChoices, VisitSettings } from "@/core/plan/visitSettings";
import type { VisitStep } from "@/core/visit/visitStep";

/** Where practitioners disagree. */
export type SchoolId = keyof typeof schoolChoices;

/** One question on which good technicians differ, with its two answers in words. */
interface School {
  readonly question: string;
  readonly words: Readonly<Record<string, string>>;
  /** What speaks for the one that is usual where nobody chose and no kit says. */
  readonly usual: { readonly option: string; readonly why: string };
}

/** All of them: the sheet, its settings and the route read this table. */
export const SCHOOLS: Readonly<Record<SchoolId, School>> = {
  setUpBy: {
    question: "Set-up through",
    words: { app: "the maker's app", "web-page": "the device's own web page" },
    usual: { option: "app", why: "it knows the device's version" },
  },
  ctTest: {
    question: "CT test",
    words: { "load-steps": "load steps only", "built-in": "the built-in test as well" },
    usual: { option: "load-steps", why: "a built-in pass never replaces a proved sign" },
  },
  energise: {
    question: "First to feed the backup side",
    words: { "island-first": "island first, then the grid let in", "grid-first": "grid first, then the island" },
    usual: { option: "grid-first", why: "the kit says nothing else" },
  },
  configureWhen: {
    question: "Configure",
    words: { "before-ac": "before AC is closed", "after-ac": "after AC is closed" },
    usual: { option: "after-ac", why: "the kit says nothing else" },
  },
  moduleWhen: {
    question: "Communication module in",
    words: { "before-power": "before power", "after-power": "after power" },
    usual: { option: "before-power", why: "nothing is plugged into a live device" },
  },
  firmwareWhen: {
    question: "Firmware",
    words: { early: "early, before anything is proved", late: "late, when all is proved" },
    usual: { option: "late", why: "nothing restarts while it is proved" },
  },
  pairingAt: {
    question: "Pairing is opened",
    words: { hub: "at the hub", follower: "at the follower" },
    usual: { option: "hub", why: "the kit says nothing else" },
  },
  isolateWhen: {
    question: "Isolate",
    words: {
      "fix-first": "fix everything first, isolate late: the house stays lit",
      "isolate-first": "isolate first, then fix",
    },
    usual: { option: "fix-first", why: "the gates before any conductor are the same" },
  },
  ctLeads: {
    question: "CT leads",
    words: {
      "leads-first": "into the meter first, then the CT",
      "clamp-first": "laid, clamped dead, cut to length, then terminated",
    },
    usual: { option: "leads-first", why: "an open CT on a live conductor makes dangerous voltage" },
  },
  spareCores: {
    question: "Spare cores",
    words: { folded: "folded back and sleeved", cut: "cut flush" },
    usual: { option: "folded", why: "one method for the whole site" },
  },
};

/** Which method is followed, and who says so. */
export interface ActiveSchool {
  readonly option: string;
  readonly why: string;
}

/**
 * The method that is followed for a device: as was chosen for the job, else as its kit says, else the usual one. What
 * a kit's own order of switching on forbids is not followed, whoever chose it.
 *
 * For example: `activeSchool({ energise: "kit" }, kit, "energise")` of a kit that starts from its battery:
 * `island-first`, with the kit's reason.
 *
 * @param kit Undefined where it is the same for the whole site.
 */
export function activeSchool(visit: VisitSettings, kit: Kit | undefined, id: SchoolId): ActiveSchool {
  const chosen = visit[id];
  const forced = kit && forcedByOrder(kit, id);
  if (forced && forced.option !== chosen) return forced;
  if (chosen !== "kit") return { option: chosen, why: "as chosen under Sheet" };
  const said = kit && isPractice(id) ? kit.practice[id] : undefined;
  return said ?? forced ?? impliedByOrder(kit, id) ?? SCHOOLS[id].usual;
}

/** The same as a step shows it: what is followed, what the other would be, and why. */
export function schoolLine(visit: VisitSettings, kit: Kit | undefined, id: SchoolId): VisitStep["school"] {
  const { question, words } = SCHOOLS[id];
  const { option, why } = activeSchool(visit, kit, id);
  const other = Object.keys(words).find((own) => own !== option)!;
  return { question, active: words[option]!, other: words[other]!, why };
}

function isPractice(id: SchoolId): id is PracticeId {
  return Object.hasOwn(PRACTICE_OPTIONS, id);
}

/** What runs from AC alone, or takes its AC first, has nothing to be set from, and no island, before it. */
function forcedByOrder(kit: Kit, id: SchoolId): ActiveSchool | undefined {
  const after = FORCED[id];
  if (after === undefined) return undefined;
  const first = kit.powerUp.find(({ first, then }) => first === "ac" && (then === "dc" || then === "battery"));
  if (id === "energise")
    return first?.then === "battery" ? { option: after, why: `its AC comes first: ${first.why}` } : undefined;
  if (kit.kind !== "pv-inverter" && kit.kind !== "hybrid-inverter")
    return { option: after, why: "it runs from AC alone" };
  return first ? { option: after, why: `its AC comes first: ${first.why}` } : undefined;
}

/** What a kit's own order of switching on leaves of a method. */
const FORCED: Readonly<Partial<Record<SchoolId, string>>> = { configureWhen: "after-ac", energise: "grid-first" };

function impliedByOrder(kit: Kit | undefined, id: SchoolId): ActiveSchool | undefined {
  const first = kit?.powerUp.find(({ first, then }) => first === "battery" && then === "ac");
  return id === "energise" && first ? { option: "island-first", why: first.why } : undefined;
}
