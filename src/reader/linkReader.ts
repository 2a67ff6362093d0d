import { modbusLine } from "@/reader/modbusLine";
import type { OpenLine, ReadOutcome } from "@/reader/readLine";
import type { Kit } from "@/core/kits/kitSchema";
import { isMeasured, registerBlocks, type RegisterBlock } from "@/core/kits/registersOf";
import type { Register } from "@/core/kits/registerSchema";
import { baseUnit, decodeRegister, encodeRegister } from "@/core/kits/registerValue";
import { registerWords } from "@/core/kits/registerWords";
import { troubleState, troubleWords, type ReadTrouble } from "@/core/live/readTrouble";
import type { LiveDevice, LiveLink, LiveSample, LiveSearch, LiveValue, LiveWay } from "@/core/live/liveSchema";
import type { ReadableLine } from "@/core/live/readableLines";
import type { ReadableUnit } from "@/core/live/readableUnit";
import { USUAL_BUS_DEVICE } from "@/core/links/bus/rs485Schema";

const AGAIN_AFTER_MS = 2_000;
/** In a network nobody needs a value more often; on a serial line its own time is the limit. */
const LEAST_CYCLE_MS = 200;
const SEARCH_TIMEOUT_MS = 150;
const LAST_ADDRESS = 247;
const PARITIES = ["none", "even", "odd"] as const;

/** Half an hour of one device asked twice a second; older ones are let go. */
const MOST_SAMPLES = 20_000;

/** Which setting of a device. */
export type SettingName = Pick<Register, "of" | "input">;

/** What a device holds after it was written to. */
export type WriteOutcome =
  { readonly kind: "written"; readonly value: LiveValue } | { readonly kind: "refused"; readonly message: string };

type Answer = { readonly kind: "values"; readonly values: readonly LiveValue[] } | { readonly kind: "silent" };

/**
 * Reads one link of a job, round after round, for as long as somebody wants it: every measured register of every device
 * of the line, one question at a time, and again after a cut. It writes nothing but a setting that somebody armed.
 */
export class LinkReader {
  state: LiveLink;
  /** Every power as it was read, oldest first. */
  readonly samples: LiveSample[] = [];
  private line: OpenLine | undefined;
  private isStopped = false;
  private search: "wanted" | undefined;
  private readonly wishes: (() => Promise<void>)[] = [];
  private again: NodeJS.Timeout | undefined;
  private wake: (() => void) | undefined;
  private readonly over: Promise<void>;

  constructor(
    private readonly planned: ReadableLine,
    private readonly way: Exclude<LiveWay, { kind: "mqtt" }>,
    private readonly speeds: readonly NonNullable<Kit["serial"]>[],
    private readonly changed: (state: LiveLink) => void,
  ) {
    this.state = {
      link: planned.link,
      way,
      state: "connecting",
      devices: planned.units.map((unit): LiveDevice => ({
        device: unit.device,
        name: unit.name,
        unit: unit.unit,
        ...(unit.meter ? { meter: unit.meter } : {}),
        state: "waiting",
        asked: 0,
        missed: 0,
        values: [],
      })),
    };
    this.over = this.run();
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    clearTimeout(this.again);
    this.wake?.();
    await this.line?.close();
    await this.over;
  }

  /** Look which addresses answer, and on a serial line at which speed; one search at a time. */
  find(): void {
    this.search = "wanted";
    this.wake?.();
  }

  /** Read how a device is set, between two rounds. */
  settings(device: string): Promise<Answer> {
    const unit = this.planned.units.find((own) => own.device === device);
    const registers = unit?.registers.filter((register) => !isMeasured(register)) ?? [];
    return new Promise((resolve) => {
      if (!unit || this.isStopped) return resolve({ kind: "silent" });
      this.wishes.push(async () => {
        const read = await this.readAll(unit, registers);
        resolve(
          read.trouble && read.values.length === 0 ? { kind: "silent" } : { kind: "values", values: read.values },
        );
      });
      this.wake?.();
    });
  }

  /**
   * Write one setting between two rounds, and read it back: the value that it has then, or why it was not taken. Only
   * for a setting that somebody armed.
   */
  write(device: string, setting: SettingName, value: number): Promise<WriteOutcome> {
    const unit = this.planned.units.find((own) => own.device === device);
    const register = unit?.registers.find(
      ({ of, input, access }) => of === setting.of && input === setting.input && access === "read-write",
    );
    return new Promise((resolve) => {
      if (!unit || !register) return resolve({ kind: "refused", message: "This device has no such setting to write." });
      if (this.isStopped) return resolve({ kind: "refused", message: "The link is not read any more." });
      this.wishes.push(async () => {
        const words = encodeRegister(value, register);
        const trouble = await (this.line?.write(
          unit.unit,
          { address: register.address, words },
          USUAL_BUS_DEVICE.timeoutMs,
        ) ?? Promise.resolve<ReadTrouble>({ kind: "cut" }));
        if (trouble) return resolve({ kind: "refused", message: troubleWords(trouble, unit.unit) });
        const [read] = (await this.readAll(unit, [register])).values;
        resolve(
          read
            ? { kind: "written", value: read }
            : { kind: "refused", message: "It was written, but could not be read back: read it at the device." },
        );
      });
      this.wake?.();
    });
  }

  private async run(): Promise<void> {
    while (!this.isStopped) {
      try {
        this.line ??= await modbusLine(this.way, this.planned.serial);
        this.tell({ state: "connected", problem: undefined });
        await this.rounds();
      } catch (error) {
        await this.line?.close().catch(() => undefined);
        this.line = undefined;
        if (this.isStopped) break;
        for (const wish of this.wishes.splice(0)) await wish();
        const why = error instanceof Error ? error.message : String(error);
        this.tell({ state: "lost", problem: `Not connected: ${why}. Tried again in ${AGAIN_AFTER_MS / 1000} s.` });
        await this.pause(AGAIN_AFTER_MS);
      }
    }
    for (const wish of this.wishes.splice(0)) await wish();
  }

  private async rounds(): Promise<void> {
    while (!this.isStopped && this.line?.isOpen()) {
      const began = performance.now();
      for (const unit of this.planned.units) {
        if (this.isStopped) return;
        await this.round(unit);
        for (const wish of this.wishes.splice(0)) await wish();
      }
      const cycleMs = performance.now() - began;
      this.tell({ cycleMs });
      if (this.search === "wanted") {
        this.search = undefined;
        await this.searchAll();
      }
      if (this.way.kind === "modbus-tcp") await this.pause(Math.max(0, LEAST_CYCLE_MS - cycleMs));
      else await this.pause(0);
    }
    if (!this.isStopped) throw new Error("the connection was cut");
  }

  private async round(unit: ReadableUnit): Promise<void> {
    const read = await this.readAll(unit, unit.registers.filter(isMeasured));
    for (const { of, input, value, atMs } of read.values)
      if (of === "power")
        this.samples.push({ device: unit.device, ...(input === undefined ? {} : { input }), powerW: value, atMs });
    if (this.samples.length > MOST_SAMPLES) this.samples.splice(0, this.samples.length - MOST_SAMPLES);
    this.tellDevice(unit, (before) => ({
      ...before,
      asked: before.asked + 1,
      missed: before.missed + (read.trouble ? 1 : 0),
      state: read.trouble ? troubleState(read.trouble) : "answers",
      problem: read.trouble && troubleWords(read.trouble, unit.unit),
      answerMs: read.trouble ? undefined : read.answerMs,
      values: read.values.length > 0 ? [...read.values] : before.values,
    }));
  }

  /** Every block of some registers; a device that says nothing is not asked for the next. */
  private async readAll(
    unit: ReadableUnit,
    registers: readonly Register[],
  ): Promise<{ values: LiveValue[]; trouble: ReadTrouble | undefined; answerMs: number }> {
    const values: LiveValue[] = [];
    let answerMs = 0;
    for (const block of registerBlocks(registers)) {
      const outcome = await this.asked(unit.unit, block);
      if (outcome.kind === "trouble") return { values, trouble: outcome.trouble, answerMs };
      answerMs = Math.max(answerMs, outcome.tookMs);
      values.push(...block.registers.map((register) => valueOf(register, block, outcome.words)));
    }
    return { values, trouble: undefined, answerMs };
  }

  private async asked(unit: number, block: RegisterBlock): Promise<ReadOutcome> {
    const { timeoutMs, retries } = USUAL_BUS_DEVICE;
    let outcome: ReadOutcome = { kind: "trouble", trouble: { kind: "cut" } };
    for (let left = retries; left >= 0 && this.line?.isOpen() && !this.isStopped; left--) {
      outcome = await this.line.read(unit, block, timeoutMs);
      if (outcome.kind === "words" || outcome.trouble.kind === "refused") return outcome;
    }
    if (outcome.kind === "trouble" && outcome.trouble.kind === "no-answer")
      return { kind: "trouble", trouble: { kind: "no-answer", tries: retries + 1 } };
    return outcome;
  }

  /** All speeds that the kits of this line know, and the planned one first; in a network only the addresses. */
  private async searchAll(): Promise<void> {
    const ways = this.way.kind === "serial" ? this.serialWays(this.way) : [this.way];
    const addresses = this.addresses();
    const search: { -readonly [K in keyof LiveSearch]: LiveSearch[K] } = {
      tried: 0,
      total: ways.length * addresses.length,
      isOver: false,
      found: [],
    };
    for (const way of ways) {
      if (way !== ways[0] || way.kind === "serial") {
        await this.line?.close();
        this.line = await modbusLine(way, this.planned.serial);
      }
      for (const unit of addresses) {
        if (this.isStopped) return;
        const outcome = await this.line!.read(unit, this.firstBlock(unit), SEARCH_TIMEOUT_MS);
        search.tried++;
        const answers = outcome.kind === "words" || (outcome.trouble.kind === "refused" && outcome.trouble.code !== 11);
        if (answers) search.found.push({ unit, how: howOf(way) });
        this.tell({ search: { ...search, found: [...search.found] } });
      }
    }
    this.tell({ search: { ...search, isOver: true } });
    if (this.way.kind === "serial") {
      await this.line?.close();
      this.line = undefined;
      throw new Error("the search is over");
    }
  }

  private serialWays(way: Extract<LiveWay, { kind: "serial" }>): readonly Extract<LiveWay, { kind: "serial" }>[] {
    const bauds = [...new Set([this.planned.serial?.baud ?? 9600, ...this.speeds.map(({ baud }) => baud)])];
    return bauds.flatMap((baud) => PARITIES.map((parity) => ({ ...way, baud, parity })));
  }

  /** The planned ones first, then those that the kits come with, then all others. */
  private addresses(): readonly number[] {
    const first = [
      ...this.planned.units.map(({ unit }) => unit),
      ...this.speeds.flatMap(({ address }) => (address === undefined ? [] : [address])),
    ];
    return [...new Set([...first, ...Array.from({ length: LAST_ADDRESS }, (_, at) => at + 1)])];
  }

  private firstBlock(unit: number): RegisterBlock {
    const own = this.planned.units.find((candidate) => candidate.unit === unit) ?? this.planned.units[0];
    return registerBlocks(own?.registers ?? [])[0] ?? { table: "holding", address: 0, count: 1, registers: [] };
  }

  private tell(change: Partial<LiveLink>): void {
    this.state = { ...this.state, ...change };
    if (change.problem === undefined && "problem" in change) delete this.state.problem;
    this.changed(this.state);
  }

  private tellDevice({ device }: ReadableUnit, change: (before: LiveDevice) => LiveDevice): void {
    const devices = this.state.devices.map((own) => (own.device === device ? withoutUndefined(change(own)) : own));
    this.state = { ...this.state, devices };
    this.changed(this.state);
  }

  private pause(timeMs: number): Promise<void> {
    return new Promise((resolve) => {
      this.wake = resolve;
      this.again = setTimeout(resolve, timeMs);
    });
  }
}

function valueOf(register: Register, block: RegisterBlock, words: readonly number[]): LiveValue {
  return {
    of: register.of,
    ...(register.input === undefined ? {} : { input: register.input }),
    what: registerWords(register),
    value: decodeRegister(words.slice(register.address - block.address), register),
    unit: baseUnit(register),
    atMs: Date.now(),
  };
}

function howOf(way: Exclude<LiveWay, { kind: "mqtt" }>): string {
  return way.kind === "serial" ? `${way.baud} baud, ${way.parity} parity` : "through this converter";
}

/** What is undefined is left out, as the schema has it. */
function withoutUndefined(device: LiveDevice): LiveDevice {
  return Object.fromEntries(Object.entries(device).filter(([, value]) => value !== undefined)) as LiveDevice;
}
