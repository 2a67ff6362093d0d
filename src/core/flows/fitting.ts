import type { Fault, InputFault } from "@/core/flows/faults";
import { inputGain } from "@/core/flows/inputFactors";
import { idealCt } from "@/core/site/idealCt";
import { plannedTaps } from "@/core/site/phasors";
import type { Ct, Meter, MeterInput, Site, WindowEntry } from "@/core/site/planSchema";
import { conductorsOf, siteTree } from "@/core/site/tree";

/**
 * How one input is fitted: round what, reversed against what its kit wants, and how many times too large it reads (0:
 * dead).
 */
export interface InputFitting {
  readonly meter: string;
  readonly input: number;
  readonly around: readonly WindowEntry[];
  readonly reversed: boolean;
  readonly gain: number;
}

/** A whole fitting: every input in plan order, and the phase that each tap of every meter is on. */
export interface SiteFitting {
  readonly inputs: readonly InputFitting[];
  readonly taps: ReadonlyMap<string, Meter["taps"]>;
}

/** The fitting that the plan intends. */
export function plannedFitting(site: Site): SiteFitting {
  return {
    inputs: site.meters.flatMap((meter) =>
      meter.inputs.map((input) => ({
        meter: meter.id,
        input: input.n,
        around: input.measures,
        reversed: false,
        gain: 1,
      })),
    ),
    taps: new Map(site.meters.map((meter) => [meter.id, plannedTaps(meter.taps)])),
  };
}

/**
 * Apply one fault to a fitting. Apply faults that move CTs or taps before those of single inputs.
 * A CT that moves to another input keeps its own arrow and ratio. The result may be one that cannot
 * exist (see `inputCanExist`); that is asked of the whole combination, not of each fault on the way.
 *
 * For example: `applyFault(site, plannedFitting(site), { kind: "dead", meter: "m1", input: 2 }).inputs[1]?.gain` gives
 * 0
 */
export function applyFault(site: Site, fitting: SiteFitting, fault: Fault): SiteFitting {
  switch (fault.kind) {
    case "exchanged":
      return moved(site, fitting, fault.meter, [fault.inputs, [fault.inputs[1], fault.inputs[0]]]);
    case "places-exchanged": {
      const [a, b] = fault.inputs;
      const at = (n: number) => fitting.inputs.find((own) => own.meter === fault.meter && own.input === n)!.around;
      return {
        ...fitting,
        inputs: fitting.inputs.map((own) => {
          if (own.meter !== fault.meter || (own.input !== a && own.input !== b)) return own;
          return { ...own, around: at(own.input === a ? b : a) };
        }),
      };
    }
    case "rotated": {
      const [a, b, c] = fault.inputs;
      return moved(site, fitting, fault.meter, [
        [a, b],
        [b, c],
        [c, a],
      ]);
    }
    case "meter-reversed":
      return {
        ...fitting,
        inputs: fitting.inputs.map((input) =>
          input.meter === fault.meter ? { ...input, reversed: !input.reversed } : input,
        ),
      };
    case "taps-exchanged": {
      const taps = fitting.taps.get(fault.meter) ?? {};
      const [a, b] = fault.taps;
      const exchanged: Meter["taps"] = { ...taps, [a]: taps[b]!, [b]: taps[a]! };
      return { ...fitting, taps: new Map([...fitting.taps, [fault.meter, exchanged]]) };
    }
    default:
      return {
        ...fitting,
        inputs: fitting.inputs.map((input) =>
          input.meter === fault.meter && input.input === fault.input ? applyInputFault(input, fault) : input,
        ),
      };
  }
}

/** Apply a fault of a single input to that input's fitting. */
export function applyInputFault(input: InputFitting, fault: InputFault): InputFitting {
  switch (fault.kind) {
    case "reversed":
      return { ...input, reversed: !input.reversed };
    case "dead":
      return { ...input, gain: 0 };
    case "ratio":
      return { ...input, gain: input.gain * fault.gain };
    case "wrong-phase":
      return { ...input, around: input.around.map((entry) => ({ ...entry, conductor: fault.conductor })) };
    case "wrong-run":
      return { ...input, around: input.around.slice(0, 1).map((entry) => ({ ...entry, run: fault.run })) };
  }
}

/**
 * Tells whether an input's fitting can exist: every run has the conductor, and the signal is of the kind the input
 * takes.
 */
export function inputCanExist(site: Site): (input: InputFitting) => boolean {
  const conductors = new Map(siteTree(site).runs.map((run) => [run.id, new Set(conductorsOf(run, site))]));
  return (input) =>
    Number.isFinite(input.gain) && input.around.every((entry) => conductors.get(entry.run)?.has(entry.conductor));
}

/**
 * The plan with CTs and taps fitted as described: what the small board of an explanation draws, and what
 * `predict` as fitted then reads. A dead input has no CT.
 */
export function siteWithFitting(site: Site, fitting: SiteFitting): Site {
  const cts = fitting.inputs.flatMap((fitted): Ct[] => {
    if (fitted.gain === 0) return [];
    const { meter, input } = inputOf(site, fitted);
    const ideal = idealCt(meter, input);
    const opposite = input.arrow === "to-load" ? "to-grid" : "to-load";
    return [
      {
        ...ideal,
        around: [...fitted.around],
        arrow: fitted.reversed ? opposite : input.arrow,
        primaryA: input.primaryA / fitted.gain,
      },
    ];
  });
  const meters = site.meters.map((meter) => ({ ...meter, taps: fitting.taps.get(meter.id) ?? meter.taps }));
  return { ...site, meters, cts };
}

/** The meter and the input that a fitting speaks of. Throws when the plan has none such. */
export function inputOf(
  site: Site,
  at: { readonly meter: string; readonly input: number },
): { meter: Meter; input: MeterInput } {
  const meter = site.meters.find((candidate) => candidate.id === at.meter);
  const input = meter?.inputs.find((candidate) => candidate.n === at.input);
  if (!meter || !input) throw new Error(`inputOf: the plan has no input ${at.input} of "${at.meter}"`);
  return { meter, input };
}

/** Move CTs between inputs of one meter: each pair says which input receives the CT of which. */
function moved(
  site: Site,
  fitting: SiteFitting,
  meterId: string,
  moves: readonly (readonly [number, number])[],
): SiteFitting {
  const inputs = [...fitting.inputs];
  for (const [to, from] of moves) {
    const toIndex = inputs.findIndex((input) => input.meter === meterId && input.input === to);
    const clamp = fitting.inputs.find((input) => input.meter === meterId && input.input === from);
    if (!clamp || !inputs[toIndex]) throw new Error(`applyFault: "${meterId}" lacks input ${to} or ${from}`);
    const { meter, input: target } = inputOf(site, { meter: meterId, input: to });
    const { input: source } = inputOf(site, { meter: meterId, input: from });
    // Volts into an input for amperes: no gain describes it, and NaN marks what cannot exist.
    const gain = inputGain(target, idealCt(meter, source)) ?? NaN;
    inputs[toIndex] = {
      meter: meterId,
      input: to,
      around: clamp.around,
      reversed: clamp.reversed !== (source.arrow !== target.arrow),
      gain: clamp.gain * gain,
    };
  }
  return { ...fitting, inputs };
}
