import type { StepDraft, StepTag } from "@/core/visit/visitStep";
import type { VisitContext } from "@/core/visit/visitContext";
import { isRailMounted } from "@/core/visit/rules/siteRules";
import { activeSchool, type SchoolId } from "@/core/visit/schools";
import { boardFeeds } from "@/core/visit/rules/boardFeeds";
import { isClampFirst } from "@/core/visit/rules/ctLeads";

/** Chooses steps by what kind they are. */
interface OrderRule {
  readonly id: string;
  readonly first: readonly StepTag[];
  readonly then: readonly StepTag[];
  /** Only between steps of the same device, at the same place (or where nobody said at which), or anywhere. */
  readonly same: "device" | "place" | "site";
  readonly why: string;
  /** Between these two only; where a method or the plan decides. */
  readonly where?: (context: VisitContext, first: StepDraft, then: StepDraft) => boolean;
}

/** Everything that opens a cover or touches a conductor. */
export const TOUCHES: readonly StepTag[] = [
  "bond",
  "wire-power",
  "neutral-earth",
  "taps",
  "ct-leads",
  "clamp",
  "wire-link",
  "measure-link",
  "battery-polarity",
];
const SWITCHES_ON = ["on-ac", "on-battery", "on-dc", "on"] as const;
/** Every source at every board. */
const SOURCES = ["restore", "restore-backup", "island", "on-generator"] as const;
/** Whatever is measured or switched at a site that runs. */
const PROOFS = ["prove", "ct-test", "test-running"] as const;

/**
 * What comes before what, with the reason. Rules of a kit's own power-up order are added to these by `visitSheet`.
 */
export const ORDER_RULES: readonly OrderRule[] = [
  {
    id: "look-first",
    first: ["survey"],
    then: ["unload", "isolate", "mount", "signal", "sim"],
    same: "site",
    why: "What is there decides what is done",
  },
  {
    id: "fixed-while-lit",
    first: ["mount"],
    then: ["isolate"],
    same: "site",
    why: "The house stays lit while holes are drilled",
    where: (context, first) => follows(context, "isolateWhen", "fix-first") && !isInBoard(context, first),
  },
  {
    id: "dark-before-fixed",
    first: ["isolate"],
    then: ["mount"],
    same: "site",
    why: "All is off before anything is drilled",
    where: (context) => follows(context, "isolateWhen", "isolate-first"),
  },
  {
    id: "dead-before-rail",
    first: ["prove-dead"],
    then: ["mount"],
    same: "place",
    why: "What hangs on the rail of a board is fixed where it is dead",
    where: (context, _first, then) => isInBoard(context, then),
  },
  {
    id: "tools-first",
    first: ["unload"],
    then: ["isolate", "mount"],
    same: "site",
    why: "Missing parts are known before anything is off",
  },
  {
    id: "isolate-then-prove",
    first: ["isolate"],
    then: ["prove-dead"],
    same: "site",
    why: "Dead is proved after it was switched off",
  },
  {
    id: "dead-before-touch",
    first: ["prove-dead"],
    then: TOUCHES,
    same: "place",
    why: "Nothing is touched before it is proved dead",
  },
  {
    id: "dead-before-far-end",
    first: ["prove-dead"],
    then: ["wire-link", "clamp"],
    same: "site",
    why: "A lead ends at two places, and both are opened",
  },
  {
    id: "bled-before-opening",
    first: ["bleed"],
    then: ["bond", "wire-power", "wire-link", "measure-link"],
    same: "site",
    why: "A DC link holds its charge",
  },
  {
    id: "isolate-then-bleed",
    first: ["isolate"],
    then: ["bleed"],
    same: "site",
    why: "The inverter stops before its DC is opened",
  },
  {
    id: "fixed-before-wired",
    first: ["mount"],
    then: ["bond", "wire-power", "taps", "ct-leads", "strings", "battery-polarity"],
    same: "device",
    why: "Wires are cut to what hangs on the wall",
  },
  {
    id: "fixed-before-linked",
    first: ["mount"],
    then: ["wire-link"],
    same: "site",
    why: "A line goes through all its devices",
  },
  {
    id: "fixed-before-serial",
    first: ["mount"],
    then: ["serial"],
    same: "device",
    why: "The plate is read where it hangs",
  },
  {
    id: "look-before-serial",
    first: ["unload"],
    then: ["serial", "strings", "labels"],
    same: "site",
    why: "What was brought is checked first",
  },
  {
    id: "clamped-before-labels",
    first: ["clamp", "wire-link"],
    then: ["labels"],
    same: "site",
    why: "A label says what is fitted",
  },
  { id: "earth-first", first: ["bond"], then: ["wire-power", "neutral-earth"], same: "device", why: "PE first" },
  {
    id: "mains-before-neutral",
    first: ["wire-power"],
    then: ["neutral-earth", "test-dead"],
    same: "site",
    why: "What is not joined yet cannot be measured",
  },
  {
    id: "leads-before-clamp",
    first: ["ct-leads"],
    then: ["clamp"],
    same: "device",
    why: "An open CT on a live conductor makes dangerous voltage",
    where: (context, first) => !isClampFirst(context, first.about),
  },
  {
    id: "clamp-before-leads",
    first: ["clamp"],
    then: ["ct-leads"],
    same: "device",
    why: "Laid, clamped dead and cut to length, then terminated",
    where: (context, first) => isClampFirst(context, first.about),
  },
  {
    id: "wired-before-measured",
    first: ["wire-link"],
    then: ["measure-link"],
    same: "device",
    why: "The whole line is measured",
  },
  {
    id: "wired-before-supply",
    first: ["wire-power", "neutral-earth", "taps", "ct-leads", "clamp", "measure-link", "wire-link", "rule", "mount"],
    then: ["look-over", "clear", "restore"],
    same: "site",
    why: "Covers are open until all of it is in",
    where: (context, first) => !isSeatedLive(context, first),
  },
  {
    id: "dead-before-tests",
    first: ["prove-dead"],
    then: ["test-dead"],
    same: "place",
    why: "A circuit is tested dead, and by itself",
  },
  {
    id: "tested-before-supply",
    first: ["test-dead", "strings", "battery-polarity"],
    then: ["look-over"],
    same: "site",
    why: "What fails a dead test is not energised",
  },
  { id: "look-before-clear", first: ["look-over"], then: ["clear"], same: "site", why: "The last look comes first" },
  {
    id: "clear-before-source",
    first: ["clear"],
    then: ["restore", "restore-backup", "island", "loads"],
    same: "device",
    why: "Nothing is energised while anyone works on what it feeds",
  },
  {
    id: "clear-before-generator",
    first: ["clear"],
    then: ["on-generator", ...SWITCHES_ON],
    same: "site",
    why: "Nothing is energised while anyone works on what it feeds",
  },
  {
    id: "supply-side-first",
    first: ["restore"],
    then: ["restore"],
    same: "site",
    why: "One board after the other, from the supply on",
    where: (context, first, then) => isAbove(context, first.about, then.about),
  },
  {
    id: "inverter-before-backup",
    first: ["on-ac"],
    then: ["restore-backup"],
    same: "site",
    why: "The grid reaches the backup side through it",
    where: (context, first, then) => isAbove(context, first.about, then.about),
  },
  {
    id: "battery-before-island",
    first: ["on-battery"],
    then: ["island"],
    same: "site",
    why: "An island lives on its battery",
  },
  {
    id: "island-before-grid",
    first: ["island"],
    then: ["on-ac", "restore-backup"],
    same: "site",
    why: "The backup side is proved alone, then the grid is let in",
    where: (context, first, then) =>
      isIslandFirst(context, first.about) &&
      (then.tag === "restore-backup" || isAbove(context, then.about, first.about)),
  },
  {
    id: "grid-before-island",
    first: ["on-ac", "restore-backup"],
    then: ["island"],
    same: "site",
    why: "The grid first, then the backup side alone",
    where: (context, first, then) =>
      !isIslandFirst(context, then.about) && (first.tag === "on-ac" || first.about === then.about),
  },
  {
    id: "generator-last",
    first: ["restore", "restore-backup", "island", ...SWITCHES_ON],
    then: ["on-generator"],
    same: "site",
    why: "Last and alone, after grid and battery",
  },
  {
    id: "sources-before-loads",
    first: [...SOURCES, ...SWITCHES_ON, "test-live"],
    then: ["loads"],
    same: "site",
    why: "Loads last, on sources that were measured",
  },
  {
    id: "backup-loads-last",
    first: ["loads"],
    then: ["loads"],
    same: "site",
    why: "The backed-up loads after all others",
    where: (context, first, then) => isAbove(context, first.about, then.about),
  },
  {
    id: "live-before-tests",
    first: ["restore", "restore-backup"],
    then: ["test-live"],
    same: "site",
    why: "It is measured live",
  },
  {
    id: "loads-before-proof",
    first: ["loads"],
    then: [...PROOFS, "online", "firmware", "compare"],
    same: "site",
    why: "Loads are what is proved with, and the router is one of them",
  },
  {
    id: "joined-before-running-tests",
    first: ["reconnect", "configure", "inverters-on", ...SWITCHES_ON],
    then: ["test-running"],
    same: "site",
    why: "Only what feeds in can lose the mains",
  },
  {
    id: "running-tests-before-covers",
    first: ["test-running", "count", "status", "watch"],
    then: ["covers", "tidy"],
    same: "site",
    why: "What fails is opened once more",
  },
  {
    id: "polarity-before-battery",
    first: ["battery-polarity"],
    then: ["on-battery"],
    same: "device",
    why: "A reversed battery destroys the inverter",
  },
  {
    id: "polarity-before-dc",
    first: ["strings"],
    then: ["on-dc"],
    same: "device",
    why: "A reversed string is not mated",
  },
  {
    id: "supply-before-switch",
    first: ["restore"],
    then: SWITCHES_ON,
    same: "site",
    why: "Every source is verified before anything hangs on it",
  },
  {
    id: "sim-before-level",
    first: ["sim"],
    then: ["cellular-level"],
    same: "device",
    why: "The level shows once the SIM is in",
  },
  {
    id: "power-before-level",
    first: ["restore", ...SWITCHES_ON],
    then: ["cellular-level"],
    same: "site",
    why: "A module without power shows no level",
  },
  {
    id: "sim-before-supply",
    first: ["sim"],
    then: ["look-over", "restore", "wire-link"],
    same: "site",
    why: "It looks for its SIM only when it starts",
    where: (context, first, then) =>
      then.tag === "wire-link" ? isIn(context, first, then) : !isLiveModule(context, first),
  },
  {
    id: "module-after-power",
    first: SWITCHES_ON,
    then: ["wire-link"],
    same: "site",
    why: "It is seated when the device runs, as its maker wants it",
    where: (context, first, then) => isSeatedLive(context, then) && isIn(context, first, then),
  },
  {
    id: "module-before-online",
    first: ["wire-link"],
    then: ["reach", "online", "cellular-level", "configure", "firmware"],
    same: "site",
    why: "Without its module it is in no network",
    where: (context, first, then) =>
      isSeatedLive(context, first) && moduleIds(context, first.about).includes(then.about ?? ""),
  },
  {
    id: "on-before-reach",
    first: ["on-battery", "on-dc", "on"],
    then: ["reach", "configure", "reconnect", "firmware", "status"],
    same: "device",
    why: "It must run",
  },
  {
    id: "ac-before-reach",
    first: ["on-ac"],
    then: ["reach", "configure", "reconnect", "firmware", "status"],
    same: "device",
    why: "It must run",
    where: (context, _first, then) => !["reach", "configure"].includes(then.tag) || !isSetBeforeAc(context, then.about),
  },
  {
    id: "set-before-ac",
    first: ["configure"],
    then: ["on-ac"],
    same: "device",
    why: "Grid code, mode and battery are set on DC or on its battery, the grid comes last",
    where: (context, _first, then) => isSetBeforeAc(context, then.about),
  },
  {
    id: "battery-before-set",
    first: ["on-battery"],
    then: ["reach", "configure"],
    same: "site",
    why: "It is set while it runs from its battery",
    where: (context, _first, then) => isSetBeforeAc(context, then.about),
  },
  {
    id: "off-before-set",
    first: ["inverters-off"],
    then: ["configure"],
    same: "site",
    why: "None feeds in while another is set",
  },
  {
    id: "on-before-off",
    first: ["on-dc", "on-ac", "reach"],
    then: ["inverters-off"],
    same: "site",
    why: "What does not run takes no command",
    where: (context, first) => !isSetBeforeAc(context, first.about),
  },
  {
    id: "set-before-on",
    first: ["configure", "reconnect", "on-ac"],
    then: ["inverters-on"],
    same: "site",
    why: "All of them are set, and none has an alarm",
  },
  {
    id: "on-before-proof",
    first: ["inverters-on"],
    then: [...PROOFS, "status", "count", "watch"],
    same: "site",
    why: "None is left off",
  },
  {
    id: "set-before-status",
    first: ["configure", "reconnect", "on-battery"],
    then: ["status", "watch"],
    same: "site",
    why: "It is read after the restart that the settings want",
  },
  {
    id: "on-before-count",
    first: [...SWITCHES_ON, "configure", "loads"],
    then: ["count"],
    same: "site",
    why: "What has no power does not answer",
  },
  {
    id: "status-before-proof",
    first: ["status", "count"],
    then: ["prove"],
    same: "site",
    why: "A device that did not take its settings is not worth a proof",
  },
  { id: "on-before-pair", first: SWITCHES_ON, then: ["pair-open", "pair"], same: "site", why: "Both ends must run" },
  { id: "open-before-pair", first: ["pair-open"], then: ["pair"], same: "device", why: "The window is opened first" },
  {
    id: "supply-before-settings",
    first: ["restore"],
    then: ["reach", "configure"],
    same: "site",
    why: "A device without supply takes no settings",
  },
  {
    id: "serial-before-reach",
    first: ["serial"],
    then: ["reach", "configure"],
    same: "device",
    why: "To find this one and no other",
  },
  {
    id: "reach-before-configure",
    first: ["reach"],
    then: ["configure", "firmware"],
    same: "device",
    why: "Values are typed once it answers",
  },
  {
    id: "firmware-early",
    first: ["firmware"],
    then: PROOFS,
    same: "site",
    why: "Nothing restarts after it was proved",
    where: (context, first) => follows(context, "firmwareWhen", "early", first.about),
  },
  {
    id: "firmware-late",
    first: PROOFS,
    then: ["firmware"],
    same: "site",
    why: "Nothing restarts while it is proved",
    where: (context, _first, then) => follows(context, "firmwareWhen", "late", then.about),
  },
  {
    id: "grid-off-in-turn",
    first: ["prove"],
    then: ["prove"],
    same: "site",
    why: "The grid goes off once: the island, the generator, then the grid back",
    where: (_context, first, then) => gridTurn(first) < gridTurn(then),
  },
  {
    id: "configured-before-proof",
    first: ["configure", "pair", "ct-test"],
    then: ["prove"],
    same: "site",
    why: "A ratio left at its default proves nothing",
  },
  {
    id: "configured-before-test",
    first: ["configure"],
    then: ["ct-test"],
    same: "site",
    why: "The test needs meter and ratio",
  },
  {
    id: "joined-before-test",
    first: ["restore", "reconnect", ...SWITCHES_ON],
    then: ["ct-test"],
    same: "site",
    why: "The built-in test needs the grid joined and loads running",
  },
  {
    id: "test-before-proof",
    first: ["ct-test"],
    then: ["prove"],
    same: "site",
    why: "It never replaces a proved sign",
  },
  {
    id: "joined-before-proof",
    first: ["reconnect", "on-ac", "on-dc", "on-battery"],
    then: ["prove"],
    same: "site",
    why: "Sun and battery must run",
  },
  {
    id: "configured-before-online",
    first: ["configure", "signal", "cellular-level"],
    then: ["online"],
    same: "device",
    why: "It goes online with its right settings",
  },
  {
    id: "on-before-online",
    first: [...SWITCHES_ON, "restore"],
    then: ["online", "firmware"],
    same: "site",
    why: "It must run",
  },
  {
    id: "proof-before-covers",
    first: ["prove", "labels"],
    then: ["covers"],
    same: "site",
    why: "A reversed CT is found while the covers are still off",
  },
  {
    id: "on-before-contact",
    first: [...SWITCHES_ON, "restore", "configure", "reconnect", "inverters-on"],
    then: ["contact"],
    same: "site",
    why: "Both ends must run for one to answer the other",
  },
  {
    id: "contact-before-covers",
    first: ["contact"],
    then: ["covers"],
    same: "site",
    why: "A core in the wrong terminal is found while the covers are still off",
  },
  {
    id: "ask-first",
    first: ["ask"],
    then: ["restart", "signal", "cellular-level", "reach", "enter-network"],
    same: "site",
    why: "What changed decides what is tried",
  },
  {
    id: "restart-before-settings",
    first: ["restart"],
    then: ["reach", "enter-network"],
    same: "device",
    why: "A restart costs less than a new set-up",
  },
  {
    id: "reach-before-network",
    first: ["signal", "reach"],
    then: ["enter-network"],
    same: "device",
    why: "The network is entered where it can be heard, by whoever is in the device",
  },
  {
    id: "network-before-online",
    first: ["enter-network", "restart"],
    then: ["online"],
    same: "device",
    why: "It must be in the network",
  },
  {
    id: "found-before-opening",
    first: ["survey", "as-found"],
    then: ["isolate"],
    same: "site",
    why: "What is wrong is read before anything is touched",
  },
  {
    id: "told-before-proof",
    first: ["reach", "on-ac", "on", "restore"],
    then: ["tell"],
    same: "site",
    why: "It is told once all of it runs",
  },
  { id: "tell-before-proof", first: ["tell"], then: ["prove"], same: "site", why: "It must know of what it reads" },
  {
    id: "compare-last",
    first: ["prove", "online", "as-found"],
    then: ["compare"],
    same: "site",
    why: "Only what works can be compared",
  },
  { id: "compare-before-covers", first: ["compare"], then: ["covers"], same: "site", why: "Covers come last" },
  {
    id: "covers-before-leaving",
    first: ["covers", "labels", "online", "firmware", "compare"],
    then: ["tidy", "owner"],
    same: "site",
    why: "The owner is shown a site that is finished",
  },
  { id: "tidy-before-owner", first: ["tidy"], then: ["owner"], same: "site", why: "Nothing is left lying about" },
];

/** Whether a method is followed for a device, or for the whole site. */
function follows({ visit, plan }: VisitContext, id: SchoolId, option: string, about?: string): boolean {
  return activeSchool(visit, plan.deviceById.get(about ?? "")?.kit, id).option === option;
}

function isSetBeforeAc(context: VisitContext, about: string | undefined): boolean {
  return follows(context, "configureWhen", "before-ac", about);
}

/** What the kit of whatever feeds a backup side wants first. */
function isIslandFirst(context: VisitContext, board: string | undefined): boolean {
  const island = boardFeeds(context).find((feed) => feed.board.id === board)?.island;
  return island !== undefined && activeSchool(context.visit, island.kit, "energise").option === "island-first";
}

/** Whether one stands on the way from the supply to the other. */
function isAbove({ plan }: VisitContext, above: string | undefined, below: string | undefined): boolean {
  for (let device = plan.deviceById.get(below ?? "")?.parent; device; device = device.parent)
    if (device.id === above) return true;
  return false;
}

function isInBoard({ plan }: VisitContext, { about }: StepDraft): boolean {
  const kit = plan.deviceById.get(about ?? "")?.kit;
  return kit !== undefined && isRailMounted({ kit });
}

/** A plug-in module that its maker, or whoever chose the method, wants seated in a running device. */
function isSeatedLive(context: VisitContext, { about }: StepDraft): boolean {
  return moduleIds(context, about).some((id) => isLiveModule(context, { about: id }));
}

function isLiveModule(context: VisitContext, { about }: Pick<StepDraft, "about">): boolean {
  return follows(context, "moduleWhen", "after-power", about);
}

/** The modules of a link that plugs one in. */
function moduleIds({ plan }: VisitContext, link: string | undefined): readonly string[] {
  return (plan.linkById.get(link ?? "")?.ends ?? []).flatMap(({ device }) =>
    device?.kit.kind === "dongle" ? device.id : [],
  );
}

/** Whether a step is about one end of a link. */
function isIn({ plan }: VisitContext, { about }: StepDraft, link: StepDraft): boolean {
  return plan.linkById.get(link.about ?? "")?.members.some(({ item }) => item === about) ?? false;
}

const GRID_TURNS = ["grid-off", "running", "grid-back"];

/** Before the grid is off, off, on a generator, back. */
function gridTurn({ about }: StepDraft): number {
  return GRID_TURNS.indexOf(about?.split(":")[0] ?? "");
}
