import type { CanLog } from "@/core/links/bus/candump";
import type { BusVerdict } from "@/core/links/bus/multimeter";

/** Why a battery may have given up, and what to check. */
export interface SilenceCause {
  readonly cause: "terminators" | "pins" | "bit-rate" | "model-setting" | "address" | "inverter-silent";
  readonly share: number;
  readonly text: string;
  readonly check: string;
}

const WORDS: Readonly<Record<SilenceCause["cause"], { readonly text: string; readonly check: string }>> = {
  terminators: {
    text: "Terminators: one missing or one too many",
    check: "Measure CANH to CANL with everything off: 60 Ω",
  },
  pins: {
    text: "Pins: CANH and CANL exchanged, or a lead for other pins",
    check: "Compare the lead pin by pin with the wiring schedule",
  },
  "bit-rate": { text: "Bit rate differs at the two ends", check: "Set both ends to the bit rate of the battery" },
  "model-setting": {
    text: "The inverter is set to another battery",
    check: "Choose this battery's model in the inverter",
  },
  address: {
    text: "The first module has another address",
    check: "Set the switches of the first module, then start the bank anew",
  },
  "inverter-silent": {
    text: "The inverter sends nothing that the battery waits for",
    check: "Start the inverter first, and choose the battery's model in it",
  },
};

/** Before anything was seen. */
const USUAL: Readonly<Record<SilenceCause["cause"], number>> = {
  terminators: 3,
  pins: 3,
  "bit-rate": 2,
  "model-setting": 3,
  address: 1,
  "inverter-silent": 1,
};

/**
 * What to check when a battery gave up, most likely first, weighed by what the log and the multimeter show: no frame at
 * all speaks for pins and bit rate; frames of both for the model setting; of the battery alone for a silent inverter.
 *
 * For example: A log in which the battery's frames end and the inverter's go on: model setting first.
 *
 * @param batterySenders Names in the log's expectations that are the battery.
 */
export function batterySilence(
  log: CanLog | undefined,
  batterySenders: readonly string[],
  meter: BusVerdict | undefined,
): readonly SilenceCause[] {
  const weights: Record<SilenceCause["cause"], number> = { ...USUAL };
  const times = (factors: Partial<Record<SilenceCause["cause"], number>>) => {
    for (const [cause, factor] of Object.entries(factors)) weights[cause as SilenceCause["cause"]] *= factor;
  };
  if (log && log.frames === 0) times({ pins: 4, "bit-rate": 3, terminators: 0.7, "model-setting": 0.2 });
  if (log && log.frames > 0) {
    const neverCame = (isBattery: boolean) =>
      log.missing.filter(
        ({ frame, lastS }) => batterySenders.includes(frame.sender) === isBattery && lastS === undefined,
      ).length;
    const fellSilent = log.missing.some(
      ({ frame, lastS }) => batterySenders.includes(frame.sender) && lastS !== undefined,
    );
    const strangers = log.lines.filter((line) => line.name === undefined).length;
    // Frames that can be read were sent at this speed over these pins.
    times({ pins: 0.2, "bit-rate": 0.1 });
    if (fellSilent) times({ "model-setting": 3, terminators: 1.5 });
    if (neverCame(true) > 0) times({ address: 3 });
    if (neverCame(false) > 0) times({ "inverter-silent": 6, "model-setting": 1.5 });
    if (strangers > 0) times({ "model-setting": 2 });
  }
  const found = meter?.kind === "fault" || meter?.kind === "as-planned" ? meter.explanations[0] : undefined;
  if (found) {
    const isTermination = found.faults.some(({ kind }) => kind.startsWith("terminator"));
    const isPins = found.faults.some(({ kind }) => kind === "open" || kind === "exchanged" || kind === "short");
    times({ terminators: isTermination ? 20 : 0.1, pins: isPins ? 20 : 0.4 });
  }
  const total = Object.values(weights).reduce((sum, weight) => sum + weight, 0);
  return (Object.keys(weights) as SilenceCause["cause"][])
    .map((cause) => ({ cause, share: weights[cause] / total, ...WORDS[cause] }))
    .toSorted((a, b) => b.share - a.share);
}
