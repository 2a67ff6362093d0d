import { inputCanExist, inputOf, plannedFitting, type InputFitting, type SiteFitting } from "@/core/flows/fitting";
import { inputSign } from "@/core/flows/inputFactors";
import type { SiteResponses } from "@/core/flows/responses";
import type { Site } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";

/** The response of a state that cannot exist, such as a CT on a conductor that the run lacks. */
export const CANNOT_EXIST = -1;

const NOT_MET = -1;
const SAME_RESPONSE = 1e-7;
const SAME_DIGITS = 9;

interface InputState {
  readonly slot: number;
  readonly fitting: InputFitting;
  readonly tapPhase: Phase;
}

/** A response row as one of the distinct rows times a real factor. */
interface ScaledRow {
  readonly row: number;
  readonly factor: number;
}

/**
 * Every way in which single inputs have been met fitted, numbered, with the response of each: one of the
 * distinct `rows` (row 0 is all zero) times an amplitude. Two inputs that answer alike to every possible
 * device power have the same response, however they came to it.
 */
export class InputStates {
  readonly inputCount: number;
  readonly responseRows: number[] = [0];
  readonly responseAmplitudes: number[] = [0];
  readonly rows: Float64Array[];
  private readonly states: InputState[] = [];
  private readonly ids = new Map<string, number>();
  private readonly rowIds = new Map<string, number>();
  private readonly windowRows = new Map<string, ScaledRow>();
  private readonly responseIds = new Map<string, number>([["0|0", 0]]);
  /** For each state, the state after each fault, filled as met. */
  private readonly steps: Int32Array[] = [];
  private readonly stateResponses: number[] = [];
  private readonly slots: Map<string, number>;
  private readonly canExist: (input: InputFitting) => boolean;

  constructor(
    private readonly site: Site,
    private readonly siteResponses: SiteResponses,
    private readonly faultCount: number,
  ) {
    const planned = plannedFitting(site).inputs;
    this.inputCount = planned.length;
    this.slots = new Map(planned.map((input, slot) => [JSON.stringify([input.meter, input.input]), slot]));
    this.canExist = inputCanExist(site);
    this.rows = [new Float64Array(siteResponses.columns.length * 2)];
  }

  slotOf(meter: string, input: number): number {
    const slot = this.slots.get(JSON.stringify([meter, input]));
    if (slot === undefined) throw new Error(`slotOf: no input ${input} of "${meter}"`);
    return slot;
  }

  idsOf(fitting: SiteFitting): Int32Array {
    return Int32Array.from(fitting.inputs, (input, slot) => {
      const { input: planned } = inputOf(this.site, input);
      const tapPhase = fitting.taps.get(input.meter)?.[planned.tap];
      if (!tapPhase) throw new Error(`idsOf: "${input.meter}" has no tap "${planned.tap}"`);
      return this.idOf(slot, input, tapPhase);
    });
  }

  after(id: number, fault: number, change: (input: InputFitting) => InputFitting): number {
    const steps = this.steps[id]!;
    let next = steps[fault]!;
    if (next === NOT_MET) {
      const { slot, fitting, tapPhase } = this.states[id]!;
      next = this.idOf(slot, change(fitting), tapPhase);
      steps[fault] = next;
    }
    return next;
  }

  /** Index of a state's response, or `CANNOT_EXIST`. */
  responseOf(id: number): number {
    return this.stateResponses[id]!;
  }

  private idOf(slot: number, fitting: InputFitting, tapPhase: Phase): number {
    const key = JSON.stringify([slot, fitting.around, fitting.reversed, fitting.gain, tapPhase]);
    let id = this.ids.get(key);
    if (id === undefined) {
      id = this.states.push({ slot, fitting, tapPhase }) - 1;
      this.steps.push(new Int32Array(this.faultCount).fill(NOT_MET));
      this.stateResponses.push(this.responseFor(fitting, tapPhase));
      this.ids.set(key, id);
    }
    return id;
  }

  private responseFor(fitting: InputFitting, tapPhase: Phase): number {
    if (!this.canExist(fitting)) return CANNOT_EXIST;
    const { input } = inputOf(this.site, fitting);
    const sign = inputSign(input, { arrow: input.arrow, leads: "straight" }) * (fitting.reversed ? -1 : 1);
    const { row, factor } = this.windowRow(fitting, tapPhase);
    const amplitude = sign * fitting.gain * factor;
    if (amplitude === 0) return 0;
    const key = `${row}|${amplitude.toPrecision(SAME_DIGITS)}`;
    let id = this.responseIds.get(key);
    if (id === undefined) {
      this.responseRows.push(row);
      id = this.responseAmplitudes.push(amplitude) - 1;
      this.responseIds.set(key, id);
    }
    return id;
  }

  private windowRow({ around }: InputFitting, tapPhase: Phase): ScaledRow {
    const key = JSON.stringify([around, tapPhase]);
    let known = this.windowRows.get(key);
    if (!known) {
      known = this.rowFor(this.siteResponses.row(around, tapPhase));
      this.windowRows.set(key, known);
    }
    return known;
  }

  /** Split a row into a scaled one, kept once, and the real factor that was taken out. */
  private rowFor(row: Float64Array): ScaledRow {
    const largest = row.reduce((max, part) => Math.max(max, Math.abs(part)), 0);
    const factor = row.find((part) => Math.abs(part) > largest * SAME_RESPONSE) ?? 0;
    if (factor === 0) return { row: 0, factor: 0 };
    const scaled = row.map((part) => part / factor);
    const key = Array.from(scaled, (part) => Math.round(part / SAME_RESPONSE)).join(",");
    let id = this.rowIds.get(key);
    if (id === undefined) {
      id = this.rows.push(scaled) - 1;
      this.rowIds.set(key, id);
    }
    return { row: id, factor };
  }
}
