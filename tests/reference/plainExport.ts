import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";

interface Point {
  readonly gridW: number;
  readonly inverterW: number;
}

type Watts = Record<string, number>;

/** What was so from a time on, µs; the last of what had begun at a time is what was so then. */
type History<T> = { readonly us: number; readonly value: T }[];
const asOf = <T>(history: History<T>, us: number, before: T): T =>
  history.filter((entry) => entry.us <= us).at(-1)?.value ?? before;
const usOf = (ms: number) => Math.round(ms * 1000);

/**
 * The export limit computed the plain way: every time at which anything happens in one sorted list, whole histories
 * looked up by time, no rings and no state that is reused. Slow, and easy to check against the equations.
 */
export function plainExport(request: ExportLimitRequest): readonly Point[] {
  const dt = request.stepMs / 1000;
  const steps = Math.max(1, Math.round(request.durationS / dt));
  const phases = ["L1", "L2", "L3"].slice(
    0,
    request.system === "three-phase" ? 3 : request.system === "split-phase" ? 2 : 1,
  );
  const rated = request.inverters.reduce((sum, { ratedW }) => sum + ratedW, 0);
  const endUs = usOf(request.durationS * 1000);
  // At rest before it begins: as much as set-point and load of the first moment allow.
  const firstLoads = phases.map(
    (phase) => request.loads.filter((load) => load.phase === phase && load.atS <= 0).at(-1)?.powerW ?? 0,
  );
  const shown = request.controller.setPointW / (1 + request.meter.errorPct / 100);
  const sunny = request.inverters.reduce((sum, { availableW, ratedW }) => sum + Math.min(availableW, ratedW), 0);
  const wish =
    request.limit.basis === "sum"
      ? firstLoads.reduce((sum, watts) => sum + watts, 0) + shown
      : (Math.min(...firstLoads) + shown) * phases.length;
  const rest = Math.max(0, Math.min(sunny, wish));
  const allowedAtRest = rest < sunny ? rest : rated;
  const targets = request.inverters.map(({ availableW, ratedW }) =>
    Math.min(availableW, (allowedAtRest * ratedW) / rated),
  );
  const outputs = [...targets];
  const netAtRest: Watts = Object.fromEntries(
    phases.map((phase, at) => [
      phase,
      firstLoads[at]! -
        request.inverters.reduce(
          (sum, inverter, which) =>
            sum + (inverter.phases.some((own) => own === phase) ? outputs[which]! / inverter.phases.length : 0),
          0,
        ),
    ]),
  );
  const sampleAtRest: Watts = Object.fromEntries(
    phases.map((phase) => [phase, netAtRest[phase]! * (1 + request.meter.errorPct / 100)]),
  );
  const actors = [
    request.battery && {
      ...request.battery,
      least: -request.battery.powerW,
      most: request.battery.powerW,
      target: 0,
      output: 0,
    },
    request.diverter && { ...request.diverter, least: 0, most: request.diverter.ratedW, target: 0, output: 0 },
  ];
  const { meter, controller, limit } = request;
  const happenings = [...request.loads, ...request.events].map(({ atS }) => usOf(atS * 1000));
  const losses = request.events.flatMap(({ atS, kind }) =>
    kind === "meter-lost" || kind === "meter-back" ? usOf(atS * 1000) : [],
  );
  const every = (periodMs: number, fromMs = 0) =>
    Array.from({ length: Math.ceil(endUs / usOf(periodMs)) + 1 }, (_, at) => at * usOf(periodMs) + usOf(fromMs));
  const times = [
    ...Array.from({ length: steps }, (_, step) => usOf(step * request.stepMs)),
    ...every(meter.samplePeriodMs),
    ...every(meter.samplePeriodMs, meter.delayMs),
    ...every(controller.periodMs),
    ...request.inverters.flatMap(({ deadTimeMs, lostMeter }) => [
      ...every(controller.periodMs, deadTimeMs),
      ...losses.flatMap((us) => {
        const after = us + usOf(lostMeter?.afterMs ?? 0);
        return [us + usOf(deadTimeMs), after, after + usOf(deadTimeMs)];
      }),
    ]),
    ...actors.flatMap((actor) => (actor ? every(actor.periodMs) : [])),
    ...happenings,
  ];
  const sorted = [...new Set(times)].filter((us) => us < usOf(steps * request.stepMs)).toSorted((a, b) => a - b);
  const isMultiple = (us: number, periodMs: number) => us % usOf(periodMs) === 0;
  const lostSince = (us: number) => {
    const last = request.events
      .filter((event) => (event.kind === "meter-lost" || event.kind === "meter-back") && usOf(event.atS * 1000) <= us)
      .toSorted((a, b) => a.atS - b.atS);
    const back = last.findLastIndex(({ kind }) => kind === "meter-back");
    const lost = last.slice(back + 1)[0];
    return lost ? usOf(lost.atS * 1000) : undefined;
  };
  const sunOf = (which: number, us: number) =>
    request.events
      .filter(
        (event) =>
          event.kind === "sun" &&
          usOf(event.atS * 1000) <= us &&
          (event.id === undefined || event.id === request.inverters[which]!.id),
      )
      .toSorted((a, b) => a.atS - b.atS)
      .flatMap((event) => (event.kind === "sun" ? [event.availableW] : []))
      .at(-1) ?? request.inverters[which]!.availableW;
  const loadOf = (phase: string, us: number) =>
    request.loads
      .filter((load) => load.phase === phase && usOf(load.atS * 1000) <= us)
      .toSorted((a, b) => a.atS - b.atS)
      .at(-1)?.powerW ?? 0;
  const points: Point[] = [];
  const samples: History<Watts> = [];
  const believed: History<Watts> = [];
  const commands = request.inverters.map((): History<number> => []);
  let now = allowedAtRest;
  let net = netAtRest;
  for (const [index, us] of sorted.entries()) {
    const lastsS = ((sorted[index + 1] ?? usOf(steps * request.stepMs)) - us) / 1e6;
    const before = net;
    if (us > 0 && isMultiple(us, meter.samplePeriodMs))
      samples.push({
        us,
        value: Object.fromEntries(phases.map((phase) => [phase, before[phase]! * (1 + meter.errorPct / 100)])),
      });
    const lostUs = lostSince(us);
    if (lostUs === undefined) believed.push({ us, value: asOf(samples, us - usOf(meter.delayMs), sampleAtRest) });
    const seen = asOf(believed, us, sampleAtRest);
    if (isMultiple(us, controller.periodMs) && lostUs === undefined) {
      const exported = phases.map((phase) => -seen[phase]!);
      const error =
        limit.basis === "sum"
          ? controller.setPointW - exported.reduce((sum, watts) => sum + watts, 0)
          : (controller.setPointW - Math.max(...exported)) * phases.length;
      const gain = (controller.gainPerS * controller.periodMs) / 1000;
      if (Math.abs(error) > controller.deadBandW) {
        const next =
          controller.kind === "integral"
            ? now + gain * error
            : outputs.reduce((sum, watts) => sum + watts, 0) + Math.min(1, gain) * error;
        now = Math.min(rated, Math.max(0, next));
      }
    }
    net = Object.fromEntries(phases.map((phase) => [phase, loadOf(phase, us)]));
    request.inverters.forEach((inverter, which) => {
      const isSilent =
        inverter.lostMeter !== undefined && lostUs !== undefined && us - lostUs >= usOf(inverter.lostMeter.afterMs);
      commands[which]!.push({
        us,
        value: isSilent ? inverter.lostMeter!.fallbackW : (now * inverter.ratedW) / rated,
      });
      const heard = asOf(commands[which]!, us - usOf(inverter.deadTimeMs), (allowedAtRest * inverter.ratedW) / rated);
      const available = sunOf(which, us);
      const wanted = Math.min(heard, available, inverter.ratedW);
      const reachable = wanted < inverter.minW ? 0 : wanted;
      targets[which] = Math.min(targets[which]!, available);
      const tauS = inverter.tauMs / 1000;
      const rampS = Math.min(lastsS, Math.abs(reachable - targets[which]!) / inverter.rampWPerS);
      const rate = Math.sign(reachable - targets[which]!) * inverter.rampWPerS;
      // Along the ramp, then at rest under what was reached: y' = (target − y) / τ, solved.
      for (const [forS, slope] of [
        [rampS, rate],
        [lastsS - rampS, 0],
      ] as const) {
        const end: number = targets[which]! + slope * forS;
        outputs[which] =
          tauS <= 0
            ? end
            : end - slope * tauS + (outputs[which]! - targets[which]! + slope * tauS) * Math.exp(-forS / tauS);
        targets[which] = end;
      }
      for (const phase of inverter.phases) net[phase] = net[phase]! - outputs[which]! / inverter.phases.length;
    });
    const seenSum = phases.reduce((sum, phase) => sum + seen[phase]!, 0);
    for (const actor of actors) {
      if (!actor) continue;
      if (isMultiple(us, actor.periodMs))
        actor.target = Math.min(
          actor.most,
          Math.max(
            actor.least,
            actor.target + ((actor.gainPerS * actor.periodMs) / 1000) * (actor.setPointW - seenSum),
          ),
        );
      actor.output +=
        (actor.tauMs <= 0 ? 1 : 1 - Math.exp((-1000 * lastsS) / actor.tauMs)) * (actor.target - actor.output);
      for (const phase of actor.phases) net[phase] = net[phase]! + actor.output / actor.phases.length;
    }
    points[Math.floor(us / usOf(request.stepMs))] = {
      gridW: phases.reduce((sum, phase) => sum + net[phase]!, 0),
      inverterW: outputs.reduce((sum, watts) => sum + watts, 0),
    };
  }
  return points;
}
