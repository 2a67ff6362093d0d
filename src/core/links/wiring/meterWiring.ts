import { wiringSchedule, type CoreEnd, type CoreRow } from "@/core/links/wiring/wiringSchedule";
import type { KitPort, PlanInput, PlanMeter, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { inputTag } from "@/core/site/inputTag";
import type { Site } from "@/core/site/planSchema";

/** Cores that belong together on a wiring sheet: of a link, or of the CTs and taps of a meter. */
export interface WiringGroup {
  readonly id: string;
  readonly name: string;
  readonly rows: readonly CoreRow[];
}

/**
 * The whole wiring of a plan: the cores of every link, then the leads of every CT and the voltage taps of every meter.
 *
 * For example: An inverter that asks a meter with two CTs: "Inverter, METER" with three cores, then "CTs and taps of
 * Meter" with four leads, a line and a neutral.
 */
export function wholeWiring(plan: ResolvedPlan): readonly WiringGroup[] {
  const rows = wiringSchedule(plan);
  return [
    ...plan.links.map(({ id, name }) => ({ id, name, rows: rows.filter(({ link }) => link === id) })),
    ...plan.meters.map((meter) => ({
      id: `meter:${meter.id}`,
      name: `CTs and taps of ${meter.meter.name}`,
      rows: [
        ...meter.inputs.filter(({ input }) => !input.builtIn).flatMap((own) => leadRows(plan.site, meter, own)),
        ...tapRows(meter),
      ],
    })),
  ].filter((group) => group.rows.length > 0);
}

/** The port that takes the leads of an input: the one of its number, or the only one that there is. */
export function ctPortOf({ kit }: Pick<PlanMeter, "kit">, { input }: Pick<PlanInput, "input">): KitPort | undefined {
  const ports = kit?.ports.filter(({ kind }) => kind === "ct") ?? [];
  return ports[input.n - 1] ?? ports[0];
}

/** Both leads of a CT, each with the terminal that it goes into. */
function leadRows(site: Site, meter: PlanMeter, own: PlanInput): readonly CoreRow[] {
  const { input, kitInput, ctKit, clamp } = own;
  const port = ctPortOf(meter, own);
  const lead = ctKit?.clamp?.lead;
  const tag = inputTag(site, meter.id, input.n);
  const isSwapped = clamp?.leads === "swapped";
  return (["ct-k", "ct-l"] as const).map((role): CoreRow => {
    const terminal = port?.terminals.find((candidate) => candidate.role === role);
    const letter = role === "ct-k" ? "k (+)" : "l (−)";
    return {
      id: `meter:${meter.id}:${input.n}:${role}`,
      link: `meter:${meter.id}`,
      cable: "CT lead",
      role,
      colour: (role === "ct-k" ? lead?.plus : lead?.minus) ?? letter,
      pair: "lead",
      from: { item: `CT ${tag}`, port: "lead", terminal: letter, pin: undefined, ferrule: undefined },
      to: {
        item: meter.meter.name,
        port: kitInput?.label ?? `input ${input.n}`,
        terminal: terminal?.label ?? letter,
        pin: terminal?.pin,
        ferrule: port?.conductors?.ferrule ? "on the lead, unless it comes tinned or crimped" : undefined,
      },
      notes: [
        ...(isSwapped ? ["fitted the other way round: its leads are swapped"] : []),
        ...(input.secondary.unit.endsWith("A") ? ["shorted until both are in"] : []),
      ],
    };
  });
}

/** The voltage taps, phase by phase, then the neutral. */
function tapRows({ id, meter, kit }: PlanMeter): readonly CoreRow[] {
  const port = kit?.ports.find(({ kind, terminals }) => kind === "mains" && terminals.length > 0);
  const row = (key: string, role: "line" | "neutral", conductor: string, to: CoreEnd): CoreRow => ({
    id: `meter:${id}:${key}`,
    link: `meter:${id}`,
    cable: "mains",
    role,
    colour: conductor,
    pair: "single",
    from: { item: "Its own breaker", port: "tap", terminal: conductor, pin: undefined, ferrule: undefined },
    to,
    notes: role === "line" ? ["isolated and proved dead; conductor and breaker as its manual and local rules say"] : [],
  });
  const end = (terminal: KitPort["terminals"][number] | undefined, label: string): CoreEnd => ({
    item: meter.name,
    port: port?.label ?? "taps",
    terminal: terminal?.label ?? label,
    pin: terminal?.pin,
    ferrule: port?.conductors?.ferrule ? `${port.conductors.minMm2} to ${port.conductors.maxMm2} mm²` : undefined,
  });
  const neutral = port?.terminals.find(({ role }) => role === "neutral");
  return [
    ...Object.entries(meter.taps).map(([tap, phase]) =>
      row(
        tap,
        "line",
        phase,
        end(
          port?.terminals.find(({ label, role }) => role === "line" && label === tap),
          tap,
        ),
      ),
    ),
    ...(neutral ? [row("N", "neutral", "N", end(neutral, "N"))] : []),
  ];
}
