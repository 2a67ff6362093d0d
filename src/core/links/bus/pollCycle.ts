import type { BusDevice, Rs485Bus } from "@/core/links/bus/rs485Schema";

const REQUEST_CHARACTERS = 8;
const REPLY_CHARACTERS = 5;
const CHARACTERS_PER_REGISTER = 2;
const GAP_CHARACTERS = 3.5;
/** Above this speed the Modbus serial line specification fixes the gap. */
const FIXED_GAP_ABOVE_BAUD = 19_200;
const FIXED_GAP_MS = 1.75;

type SerialSettings = Pick<Rs485Bus, "baud" | "dataBits" | "parity" | "stopBits">;

/** What a server costs in one cycle, alive or not, ms. */
export interface PollCost {
  readonly device: string;
  readonly requestMs: number;
  readonly turnaroundMs: number;
  readonly replyMs: number;
  readonly gapsMs: number;
  readonly aliveMs: number;
  readonly deadMs: number;
}

/**
 * One character on the line: start + data + parity + stop bits, ms.
 *
 * @example characterMs({ baud: 9600, dataBits: 8, parity: "none", stopBits: 1 }) // 1.0417
 */
export function characterMs({ baud, dataBits, parity, stopBits }: SerialSettings): number {
  return (1000 * (1 + dataBits + (parity === "none" ? 0 : 1) + stopBits)) / baud;
}

/** The silence that ends a frame: 3.5 characters, exactly 1.75 ms above 19200 Bd. */
export function gapMs(settings: SerialSettings): number {
  return settings.baud > FIXED_GAP_ABOVE_BAUD ? FIXED_GAP_MS : GAP_CHARACTERS * characterMs(settings);
}

/**
 * What each polled server takes of a cycle. A block of n registers takes (8 + 5 + 2n) characters, two gaps and the
 * device's turnaround; a dead device takes (retries + 1) · (request + time-out) for each of its blocks.
 *
 * For example: At 9600 8N1, one block of 20 registers, turnaround 12 ms: 53 characters + 2 gaps + 12 ms = 74.5 ms.
 */
export function pollCosts(bus: SerialSettings & { readonly devices: readonly BusDevice[] }): readonly PollCost[] {
  const character = characterMs(bus);
  const gap = gapMs(bus);
  return bus.devices
    .filter((device) => device.role === "server" && device.poll.length > 0)
    .map((device) => {
      const blocks = device.poll.length;
      const requestMs = blocks * REQUEST_CHARACTERS * character;
      const replyMs = device.poll.reduce(
        (sum, { registers }) => sum + (REPLY_CHARACTERS + CHARACTERS_PER_REGISTER * registers) * character,
        0,
      );
      const gapsMs = 2 * blocks * gap;
      const turnaroundMs = blocks * device.turnaroundMs;
      return {
        device: device.id,
        requestMs,
        replyMs,
        gapsMs,
        turnaroundMs,
        aliveMs: requestMs + replyMs + gapsMs + turnaroundMs,
        deadMs: blocks * (device.retries + 1) * (REQUEST_CHARACTERS * character + device.timeoutMs),
      };
    });
}

/**
 * The time of one cycle when the devices whose death costs most are dead, ms. Never less than with all alive.
 *
 * For example: cycleMs(costs, 0) is the cycle of a healthy bus.
 */
export function cycleMs(costs: readonly PollCost[], dead: number): number {
  const alive = costs.reduce((sum, cost) => sum + cost.aliveMs, 0);
  const extra = costs
    .map((cost) => cost.deadMs - cost.aliveMs)
    .toSorted((a, b) => b - a)
    .slice(0, dead);
  return alive + extra.reduce((sum, more) => sum + Math.max(0, more), 0);
}
