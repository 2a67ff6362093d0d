import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";

interface Point {
  readonly gridW: number;
  readonly inverterW: number;
}

type Watts = Record<string, number>;

/**
 * The export limit computed the plain way: whole histories, looked up by time, no rings and no state that is reused.
 * Slow,
 * and easy to check against the equations.
 */
export function plainExport(request: ExportLimitRequest): readonly Point[] {
  const dt = request.stepMs / 1000;
  const steps = Math.max(1, Math.round(request.durationS / dt));
  const phases = ["L1", "L2", "L3"].slice(
    0,
    request.system === "three-phase" ? 3 : request.system === "split-phase" ? 2 : 1,
  );
  const at = (step: number) => step * dt + 1e-9;
  const rated = request.inverters.reduce((sum, { ratedW }) => sum + ratedW, 0);
  const samples: Watts[] = [];
  const seenHistory: Watts[] = [];
  const nets: Watts[] = [];
  const allowed: number[] = [];
  const commands = request.inverters.map((): number[] => []);
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
  const points: Point[] = [];
  const isLost = (step: number) => {
    const last = request.events
      .filter((event) => (event.kind === "meter-lost" || event.kind === "meter-back") && event.atS <= at(step))
      .toSorted((a, b) => a.atS - b.atS)
      .at(-1);
    return last?.kind === "meter-lost";
  };
  const sunOf = (which: number, step: number) =>
    request.events
      .filter(
        (event) =>
          event.kind === "sun" &&
          event.atS <= at(step) &&
          (event.id === undefined || event.id === request.inverters[which]!.id),
      )
      .toSorted((a, b) => a.atS - b.atS)
      .flatMap((event) => (event.kind === "sun" ? [event.availableW] : []))
      .at(-1) ?? request.inverters[which]!.availableW;
  const loadOf = (phase: string, step: number) =>
    request.loads
      .filter((load) => load.phase === phase && load.atS <= at(step))
      .toSorted((a, b) => a.atS - b.atS)
      .at(-1)?.powerW ?? 0;
  const every = (ms: number) => Math.max(1, Math.round(ms / request.stepMs));
  for (let step = 0; step < steps; step++) {
    const before = nets[step - 1];
    samples.push(
      step % every(request.meter.samplePeriodMs) === 0 && before
        ? Object.fromEntries(phases.map((phase) => [phase, before[phase]! * (1 + request.meter.errorPct / 100)]))
        : (samples[step - 1] ?? sampleAtRest),
    );
    const late = step - Math.max(0, Math.round(request.meter.delayMs / request.stepMs));
    const arrived = samples[late] ?? sampleAtRest;
    seenHistory.push(isLost(step) ? (seenHistory[step - 1] ?? arrived) : arrived);
    const seen = seenHistory[step]!;
    let now = allowed[step - 1] ?? allowedAtRest;
    if (step % every(request.controller.periodMs) === 0 && !isLost(step)) {
      const exported = phases.map((phase) => -seen[phase]!);
      const error =
        request.limit.basis === "sum"
          ? request.controller.setPointW - exported.reduce((sum, watts) => sum + watts, 0)
          : (request.controller.setPointW - Math.max(...exported)) * phases.length;
      const gain = (request.controller.gainPerS * request.controller.periodMs) / 1000;
      if (Math.abs(error) > request.controller.deadBandW) {
        now =
          request.controller.kind === "integral"
            ? now + gain * error
            : outputs.reduce((sum, watts) => sum + watts, 0) + Math.min(1, gain) * error;
        now = Math.min(rated, Math.max(0, now));
      }
    }
    allowed.push(now);
    const net: Watts = Object.fromEntries(phases.map((phase) => [phase, loadOf(phase, step)]));
    let silent = 0;
    while (silent <= step && isLost(step - silent)) silent++;
    request.inverters.forEach((inverter, which) => {
      const isSilent =
        inverter.lostMeter !== undefined && silent > Math.round(inverter.lostMeter.afterMs / request.stepMs);
      commands[which]!.push(isSilent ? inverter.lostMeter!.fallbackW : (now * inverter.ratedW) / rated);
      const heard =
        commands[which]![step - Math.round(inverter.deadTimeMs / request.stepMs)] ??
        (allowedAtRest * inverter.ratedW) / rated;
      const available = sunOf(which, step);
      const wanted = Math.min(heard, available, inverter.ratedW);
      const reachable = wanted < inverter.minW ? 0 : wanted;
      const ramp = inverter.rampWPerS * dt;
      targets[which] = Math.min(
        available,
        targets[which]! + Math.max(-ramp, Math.min(ramp, reachable - targets[which]!)),
      );
      outputs[which] =
        outputs[which]! +
        (inverter.tauMs <= 0 ? 1 : 1 - Math.exp(-request.stepMs / inverter.tauMs)) *
          (targets[which]! - outputs[which]!);
      for (const phase of inverter.phases) net[phase] = net[phase]! - outputs[which]! / inverter.phases.length;
    });
    const seenSum = phases.reduce((sum, phase) => sum + seen[phase]!, 0);
    for (const actor of actors) {
      if (!actor) continue;
      if (step % every(actor.periodMs) === 0)
        actor.target = Math.min(
          actor.most,
          Math.max(
            actor.least,
            actor.target + ((actor.gainPerS * actor.periodMs) / 1000) * (actor.setPointW - seenSum),
          ),
        );
      actor.output +=
        (actor.tauMs <= 0 ? 1 : 1 - Math.exp(-request.stepMs / actor.tauMs)) * (actor.target - actor.output);
      for (const phase of actor.phases) net[phase] = net[phase]! + actor.output / actor.phases.length;
    }
    nets.push(net);
    points.push({
      gridW: phases.reduce((sum, phase) => sum + net[phase]!, 0),
      inverterW: outputs.reduce((sum, watts) => sum + watts, 0),
    });
  }
  return points;
}
