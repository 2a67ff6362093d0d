import { given } from "@/core/given";
import type { Problem } from "@/core/problem";
import type { Conductor, Meter, Site, SiteNode, WindowEntry } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { phasesOfSupply } from "@/core/site/phasors";

type Path = readonly (string | number)[];

/**
 * Everything in a well-formed plan that does not hang together: ids used twice or unknown, a node that
 * is not fed from the grid (a cycle), a phase that the feeding node lacks, a tap, run or conductor that
 * is not there, two CTs in one input. Each problem carries its path; an empty list means a sound plan.
 */
export function planProblems(site: Site): readonly Problem[] {
  return [...nodeProblems(site), ...meterProblems(site), ...ctProblems(site), ...placeProblems(site)];
}

function placeProblems(site: Site): readonly Problem[] {
  const known = new Set(site.places.map((place) => place.id));
  const unknown = (id: string | undefined, path: Path): readonly Problem[] =>
    id === undefined || known.has(id) ? [] : [{ path, message: `there is no place "${id}"` }];
  const seen = new Set<string>();
  return [
    ...repeatedIds(
      site.places.map((place) => place.id),
      ["places"],
    ),
    ...repeatedIds(
      site.equipment.map((item) => item.id),
      ["equipment"],
    ),
    ...site.equipment.flatMap((item, at) => unknown(item.place, ["equipment", at, "place"])),
    ...site.nodes.flatMap((node, at) => unknown(node.place, ["nodes", at, "place"])),
    ...site.meters.flatMap((meter, at) => unknown(meter.place, ["meters", at, "place"])),
    ...site.ways.flatMap((way, at): readonly Problem[] => {
      const key = JSON.stringify([way.from, way.to].sort());
      const again = seen.has(key);
      seen.add(key);
      return given(
        unknown(way.from, ["ways", at, "from"]),
        unknown(way.to, ["ways", at, "to"]),
        way.from === way.to && { path: ["ways", at, "to"], message: "a way joins two different places" },
        again && { path: ["ways", at], message: `the way between "${way.from}" and "${way.to}" stands twice` },
      );
    }),
  ];
}

function nodeProblems(site: Site): readonly Problem[] {
  const problems: Problem[] = repeatedIds(
    site.nodes.map((node) => node.id),
    ["nodes"],
  );
  const nodes = new Map(site.nodes.map((node) => [node.id, node]));
  const grids = site.nodes.filter((node) => node.kind === "grid");
  if (grids.length !== 1) {
    problems.push({
      path: ["nodes"],
      message: `a site has exactly one node of kind grid; this one has ${grids.length}`,
    });
  }
  site.nodes.forEach((node, at) => {
    const path: Path = ["nodes", at];
    problems.push(...repeatedPhases(node, path));
    if (node.kind === "grid") problems.push(...gridProblems(node, site, path));
    else problems.push(...feedProblems(node, nodes, site, path));
  });
  return problems;
}

function gridProblems(grid: SiteNode, site: Site, path: Path): readonly Problem[] {
  const problems: Problem[] = [];
  if (grid.fedFrom !== undefined) {
    problems.push({ path: [...path, "fedFrom"], message: "the grid is fed by nothing; leave fedFrom out" });
  }
  problems.push(
    ...missingPhases(grid.phases ?? [], phasesOfSupply(site.supply), `a ${site.supply.system} supply`, path),
  );
  return problems;
}

function feedProblems(
  node: SiteNode,
  nodes: ReadonlyMap<string, SiteNode>,
  site: Site,
  path: Path,
): readonly Problem[] {
  if (node.fedFrom === undefined) {
    return [{ path: [...path, "fedFrom"], message: `say what feeds "${node.id}"` }];
  }
  const feeder = nodes.get(node.fedFrom);
  if (!feeder) return [{ path: [...path, "fedFrom"], message: `there is no node "${node.fedFrom}"` }];
  const problems: Problem[] = [];
  if (!reachesGrid(node, nodes)) {
    problems.push({
      path: [...path, "fedFrom"],
      message: `"${node.id}" is fed in a circle and never reaches the grid`,
    });
  }
  if (!node.phases) {
    problems.push({ path: [...path, "phases"], message: `name the phases of "${node.id}"` });
    return problems;
  }
  const offered = feeder.kind === "grid" ? phasesOfSupply(site.supply) : (feeder.phases ?? []);
  const what = feeder.kind === "grid" ? `a ${site.supply.system} supply` : `"${feeder.id}", which feeds it,`;
  problems.push(...missingPhases(node.phases, offered, what, path));
  return problems;
}

function meterProblems(site: Site): readonly Problem[] {
  const problems: Problem[] = repeatedIds(
    site.meters.map((meter) => meter.id),
    ["meters"],
  );
  site.meters.forEach((meter, at) => {
    const path: Path = ["meters", at];
    for (const [tap, phase] of Object.entries(meter.taps)) {
      problems.push(
        ...missingPhases(
          [phase],
          phasesOfSupply(site.supply),
          `a ${site.supply.system} supply`,
          [...path, "taps", tap],
          false,
        ),
      );
    }
    problems.push(...inputProblems(meter, site, path));
    if (typeof meter.partOf === "string" && ![...site.nodes, ...site.equipment].some(({ id }) => id === meter.partOf)) {
      problems.push({ path: [...path, "partOf"], message: `there is no device "${meter.partOf}"` });
    }
  });
  return problems;
}

function inputProblems(meter: Meter, site: Site, path: Path): readonly Problem[] {
  const problems: Problem[] = [];
  const seen = new Set<number>();
  meter.inputs.forEach((input, at) => {
    const inputPath: Path = [...path, "inputs", at];
    if (seen.has(input.n))
      problems.push({ path: [...inputPath, "n"], message: `input ${input.n} stands twice in "${meter.id}"` });
    seen.add(input.n);
    if (!Object.hasOwn(meter.taps, input.tap)) {
      problems.push({ path: [...inputPath, "tap"], message: `"${meter.id}" has no voltage tap "${input.tap}"` });
    }
    problems.push(...windowProblems(input.measures, site, [...inputPath, "measures"]));
    (input.of ?? []).forEach((id, which) => {
      const node = site.nodes.find((candidate) => candidate.id === id);
      if (!node || node.kind === "grid")
        problems.push({ path: [...inputPath, "of", which], message: `there is no device "${id}"` });
    });
  });
  return problems;
}

function ctProblems(site: Site): readonly Problem[] {
  const problems: Problem[] = repeatedIds(
    site.cts.map((ct) => ct.id),
    ["cts"],
  );
  const plugged = new Map<string, string>();
  site.cts.forEach((ct, at) => {
    problems.push(...windowProblems(ct.around, site, ["cts", at, "around"]));
    if (!ct.plug) return;
    const plug = ct.plug;
    const meter = site.meters.find((candidate) => candidate.id === plug.meter);
    if (!meter) {
      problems.push({ path: ["cts", at, "plug", "meter"], message: `there is no meter "${plug.meter}"` });
    } else if (!meter.inputs.some((input) => input.n === plug.input)) {
      problems.push({ path: ["cts", at, "plug", "input"], message: `"${meter.id}" has no input ${plug.input}` });
    }
    const key = JSON.stringify([plug.meter, plug.input]);
    const other = plugged.get(key);
    if (other !== undefined) {
      problems.push({
        path: ["cts", at, "plug"],
        message: `input ${plug.input} of "${plug.meter}" already holds "${other}"`,
      });
    }
    plugged.set(key, ct.id);
  });
  return problems;
}

function windowProblems(entries: readonly WindowEntry[], site: Site, path: Path): readonly Problem[] {
  const problems: Problem[] = [];
  const seen = new Set<string>();
  entries.forEach((entry, at) => {
    const node = site.nodes.find((candidate) => candidate.id === entry.run);
    if (!node || node.kind === "grid") {
      problems.push({
        path: [...path, at, "run"],
        message: node
          ? "the grid itself is no circuit; name the node that the circuit feeds"
          : `there is no circuit "${entry.run}"`,
      });
    } else if (!hasConductor(node, entry.conductor)) {
      problems.push({
        path: [...path, at, "conductor"],
        message: `the circuit of "${entry.run}" has no ${entry.conductor}`,
      });
    }
    const key = JSON.stringify([entry.run, entry.conductor]);
    if (seen.has(key))
      problems.push({ path: [...path, at], message: "the same conductor stands twice in one window; use turns" });
    seen.add(key);
  });
  return problems;
}

function hasConductor(node: SiteNode, conductor: Conductor): boolean {
  return conductor === "N" || (node.phases ?? []).includes(conductor);
}

function reachesGrid(start: SiteNode, nodes: ReadonlyMap<string, SiteNode>): boolean {
  const visited = new Set<string>();
  let node: SiteNode | undefined = start;
  while (node && node.kind !== "grid") {
    if (visited.has(node.id)) return false;
    visited.add(node.id);
    node = node.fedFrom === undefined ? undefined : nodes.get(node.fedFrom);
  }
  // A feeder that is missing is reported where it is named, not again for everything below it.
  return true;
}

function repeatedIds(ids: readonly string[], path: Path): Problem[] {
  const seen = new Set<string>();
  const problems: Problem[] = [];
  ids.forEach((id, at) => {
    if (seen.has(id)) problems.push({ path: [...path, at, "id"], message: `the id "${id}" is used twice` });
    seen.add(id);
  });
  return problems;
}

function repeatedPhases(node: SiteNode, path: Path): readonly Problem[] {
  const phases = node.phases ?? [];
  if (new Set(phases).size === phases.length) return [];
  return [{ path: [...path, "phases"], message: `"${node.id}" names a phase twice` }];
}

function missingPhases(
  wanted: readonly Phase[],
  offered: readonly Phase[],
  what: string,
  path: Path,
  indexed = true,
): readonly Problem[] {
  return wanted.flatMap((phase, at) =>
    offered.includes(phase)
      ? []
      : [{ path: indexed ? [...path, "phases", at] : path, message: `${what} has no ${phase}` }],
  );
}
