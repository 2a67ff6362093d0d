import type { ReadableLine } from "@/core/live/readableLines";
import { benchSite } from "@/core/bench/benchSite";
import { isLineFault, type BenchChange, type BenchFault, type LineFault } from "@/core/bench/benchSchema";
import type { LiveValue } from "@/core/live/liveSchema";
import type { ReadableUnit } from "@/core/live/readableUnit";
import { registerImage, registerValue, serialDigits, wordKey, type DeviceMoment } from "@/core/bench/benchValues";
import { dayState } from "@/core/bench/dayState";
import { predict, type InputReading } from "@/core/flows/predict";
import type { DeviceState } from "@/core/flows/stateSchema";
import { readingVariance } from "@/core/flows/stepTables";
import { isMeasured } from "@/core/kits/registersOf";
import { registerWords } from "@/core/kits/registerWords";
import { decodeRegister, baseUnit } from "@/core/kits/registerValue";
import { REGISTER_WORDS, type Register } from "@/core/kits/registerSchema";
import { seededNormal } from "@/core/random";
import type { Site } from "@/core/site/planSchema";
import type { BenchSpec } from "@/bench/message";
import { BegunActs } from "@/bench/process/begunActs";
import type { ActStanding, DeviceAct } from "@/core/bench/deviceActs";
import { FlowingPowers } from "@/bench/process/flowingPowers";
import { SimulatedNetwork } from "@/bench/process/simulatedNetwork";
import { isNetworkFault, type NetworkFault } from "@/core/bench/networkFault";

const NOON_MIN = 720;
const DAY_MIN = 1440;
const MS_PER_MIN = 60_000;
const MS_PER_H = 3_600_000;
/** Images are kept for as long as the longest lag that can be planted. */
const LONGEST_LAG_MS = 600_000;
const MOST_IMAGES = 4_000;
const SILENT: readonly LineFault["kind"][] = ["device-dead", "wrong-speed", "exchanged-pair"];

/** Words by table and address. */
export type Image = ReadonlyMap<string, number>;

/** What one device holds, with what was written into it. */
interface DeviceOnBench {
  readonly unit: ReadableUnit;
  readonly line: ReadableLine;
  readonly written: Map<string, number>;
  images: { readonly atMs: number; readonly image: Image }[];
  energyWh: { positive: number; negative: number };
  asked: number;
}

/**
 * The site of a bench as time goes on: what is on, how the CTs are fitted, what every register holds. It knows no
 * protocol.
 */
export class SimulatedSite {
  readonly devices: readonly DeviceOnBench[];
  faults: readonly BenchFault[];
  timeFactor: number;
  runs: "held" | "day" = "held";
  private held: readonly DeviceState[] = [];
  private fitted: Site;
  private minuteOfDay = NOON_MIN;
  private lastMs: number;
  private readonly normal: () => number;
  private readonly flowing: FlowingPowers;
  readonly network: SimulatedNetwork;
  private readonly acts: BegunActs;

  constructor(
    private readonly spec: BenchSpec,
    private readonly nowMs: () => number,
  ) {
    const { request } = spec;
    this.faults = typeof request.fitting === "string" ? [] : request.fitting.faults;
    this.fitted = this.fittedWith(this.faults) ?? spec.site;
    this.timeFactor = request.timeFactor;
    this.normal = seededNormal(request.seed);
    this.lastMs = nowMs();
    this.flowing = new FlowingPowers(spec);
    this.network = new SimulatedNetwork(spec, () => this.faults.filter(isNetworkFault), Date.now);
    this.acts = new BegunActs(spec.acts);
    this.devices = spec.lines.flatMap((line) =>
      line.units.map((unit) => ({
        unit,
        line,
        written: new Map<string, number>(),
        images: [],
        energyWh: { positive: 0, negative: 0 },
        asked: 0,
      })),
    );
    this.step();
  }

  /** @returns Whether the faults can be fitted; nothing is changed where they cannot. */
  change({ state, faults, timeFactor, acts = [] }: BenchChange): boolean {
    if (faults) {
      const fitted = this.fittedWith(faults);
      if (!fitted) return false;
      this.fitted = fitted;
      this.faults = faults;
    }
    this.timeFactor = timeFactor ?? this.timeFactor;
    for (const act of acts) this.acts.begin(act);
    if (state) {
      this.held = state.devices;
      this.runs = state.runs;
      this.minuteOfDay = state.minuteOfDay ?? this.minuteOfDay;
    }
    this.step();
    return true;
  }

  /** Something that was wrong with a device is put right by whoever uses the bench. */
  cure(kind: NetworkFault["kind"], device: string): void {
    this.faults = this.faults.filter(
      (fault) => !(isNetworkFault(fault) && fault.kind === kind && "device" in fault && fault.device === device),
    );
  }

  /** Let time go on until now, and fill every register anew. */
  step(): void {
    const now = this.nowMs();
    const benchMs = (now - this.lastMs) * this.timeFactor;
    this.lastMs = now;
    this.minuteOfDay = (this.minuteOfDay + benchMs / MS_PER_MIN) % DAY_MIN;
    this.network.step(benchMs);
    this.acts.step(benchMs);
    this.flowing.step({
      site: this.fitted,
      asked: this.asked(),
      lastsMs: benchMs,
      isMeterHeard: !this.devices.some((own) => own.unit.meter === this.flowing.gridMeter && this.isSilent(own)),
      limitW: this.writtenLimitW(),
    });
    for (const device of this.devices) {
      const moment = this.moment(device);
      const shownW = totalW(device.unit, moment);
      const wh = (Math.abs(shownW) * benchMs) / MS_PER_H;
      device.energyWh[shownW < 0 ? "negative" : "positive"] += wh;
      const image = new Map(registerImage(device.unit, { ...moment, energyWh: device.energyWh }));
      for (const [key, word] of device.written) image.set(key, word);
      const oldest = now - LONGEST_LAG_MS;
      device.images = [...device.images, { atMs: now, image }].filter(({ atMs }) => atMs > oldest).slice(-MOST_IMAGES);
    }
  }

  /** The device that hears an address of a line, as it is set. */
  deviceAt(link: string, address: number): DeviceOnBench | undefined {
    return this.devices.find((device) => device.line.link === link && this.addressOf(device) === address);
  }

  /** What a device does not do that it should. */
  faultsOf(device: DeviceOnBench): readonly LineFault[] {
    return this.faults.filter(
      (fault): fault is LineFault =>
        isLineFault(fault) && ("link" in fault ? fault.link === device.line.link : fault.device === device.unit.device),
    );
  }

  /** Whether a device says nothing at all on its line. */
  isSilent(device: DeviceOnBench): boolean {
    return this.faultsOf(device).some(({ kind }) => SILENT.includes(kind));
  }

  /** Words of a device as it is asked for them; undefined where one of the addresses is not there. */
  words(device: DeviceOnBench, table: Register["table"], address: number, count: number): number[] | undefined {
    device.asked++;
    return this.wordsNow(device, table, address, count);
  }

  private wordsNow(
    device: DeviceOnBench,
    table: Register["table"],
    address: number,
    count: number,
  ): number[] | undefined {
    const lag = this.faultsOf(device).find((fault) => fault.kind === "lag");
    const until = this.nowMs() - (lag?.kind === "lag" ? lag.seconds * 1000 : 0);
    const image = (device.images.findLast(({ atMs }) => atMs <= until) ?? device.images[0])?.image;
    const words: number[] = [];
    for (let word = address; word < address + count; word++) {
      const value = image?.get(wordKey(table, word));
      if (value === undefined) return undefined;
      words.push(value);
    }
    return words;
  }

  /** @returns Whether a register that can be written begins or goes on at the address. */
  write(device: DeviceOnBench, address: number, words: readonly number[]): boolean {
    const isWritable = (word: number) =>
      device.unit.registers.some(
        (own) => own.access === "read-write" && word >= own.address && word < own.address + REGISTER_WORDS[own.type],
      );
    if (!words.every((_, at) => isWritable(address + at))) return false;
    words.forEach((word, at) => device.written.set(wordKey("holding", address + at), word));
    this.step();
    return true;
  }

  /** The time of day and what is on, for the panel. */
  state(): { readonly minuteOfDay: number; readonly devices: readonly DeviceState[] } {
    return { minuteOfDay: this.minuteOfDay, devices: this.asked() };
  }

  /** What devices can be asked to do, and how it stands. */
  standingActs(): readonly (DeviceAct & ActStanding)[] {
    return this.acts.acts.map((act) => ({ ...act, ...this.acts.standing(act, this.fitted) }));
  }

  /** A value of a device in its base unit, as it would say it now. */
  value(device: DeviceOnBench, register: Register): number {
    const words = this.wordsNow(device, register.table, register.address, REGISTER_WORDS[register.type]);
    return words ? decodeRegister(words, register) : 0;
  }

  /** The measured values of a device, as its card shows them. */
  shows(device: DeviceOnBench): readonly Omit<LiveValue, "atMs">[] {
    return device.unit.registers
      .filter((register) => isMeasured(register) && register.of !== "state")
      .map((register) => ({
        of: register.of,
        ...(register.input === undefined ? {} : { input: register.input }),
        what: registerWords(register),
        value: this.value(device, register),
        unit: baseUnit(register),
      }));
  }

  private addressOf(device: DeviceOnBench): number {
    const wrong = this.faultsOf(device).find((fault) => fault.kind === "wrong-address");
    return wrong?.kind === "wrong-address" ? wrong.address : device.unit.unit;
  }

  private asked(): readonly DeviceState[] {
    return this.runs === "day" ? dayState(this.spec.site, this.minuteOfDay) : this.held;
  }

  private fittedWith(faults: readonly BenchFault[]): Site | undefined {
    const { fitting } = this.spec.request;
    return benchSite(this.spec.site, typeof fitting === "string" ? fitting : "planned", faults);
  }

  private moment(device: DeviceOnBench): DeviceMoment {
    const site = this.withSettings(device);
    const devices = this.flowing.now(this.asked());
    const { powerW: ownPowerW = 0 } = devices.find(({ node }) => node === device.unit.device) ?? {};
    const readings = predict(site, "fitted", { devices: [...devices] }).inputs.filter(
      ({ meter }) => meter === device.unit.meter,
    );
    return {
      site,
      readings: readings.map((reading) => this.noisy(reading)),
      ownPowerW,
      kind: this.spec.kinds[device.unit.device] ?? "meter",
      energyWh: device.energyWh,
      limit: { powerW: this.spec.limitW },
      unit: device.unit.unit,
      serial: serialDigits(device.unit.device),
    };
  }

  private noisy(reading: InputReading): InputReading {
    if (!this.spec.request.noise) return reading;
    return {
      ...reading,
      powerW: reading.powerW + this.normal() * Math.sqrt(readingVariance(this.spec.noise, reading.powerW)),
    };
  }

  private writtenLimitW(): number | undefined {
    const device = this.devices.find(({ unit }) => unit.device === this.flowing.limitsAt);
    return device && writtenValue(device, "limit");
  }

  /** The site with what was typed into a device: its primaries and directions rule what it shows. */
  private withSettings(device: DeviceOnBench): Site {
    const { unit, written } = device;
    if (written.size === 0 || unit.meter === undefined) return this.fitted;
    return {
      ...this.fitted,
      meters: this.fitted.meters.map((meter) =>
        meter.id !== unit.meter
          ? meter
          : {
              ...meter,
              inputs: meter.inputs.map((input) => {
                const direction = writtenValue(device, "direction", input.n);
                return {
                  ...input,
                  primaryA: writtenValue(device, "ratio", input.n) || input.primaryA,
                  invert: direction === undefined ? input.invert : direction === 1,
                };
              }),
            },
      ),
    };
  }
}

/** A setting as somebody wrote it into a device; undefined where nobody did. */
function writtenValue({ unit, written }: DeviceOnBench, of: Register["of"], input?: number): number | undefined {
  const register = unit.registers.find((own) => own.of === of && own.input === input);
  if (!register || !written.has(wordKey("holding", register.address))) return undefined;
  const words = Array.from(
    { length: REGISTER_WORDS[register.type] },
    (_, at) => written.get(wordKey("holding", register.address + at)) ?? 0,
  );
  return decodeRegister(words, register);
}

/** What a device counts as its energy: its own power, or that of its only inputs. */
function totalW(unit: ReadableUnit, moment: DeviceMoment): number {
  const own = unit.registers.find(({ of, input }) => of === "power" && input === undefined);
  if (own) return registerValue(own, unit, moment);
  return moment.readings.reduce((sum, { powerW }) => sum + powerW, 0);
}
