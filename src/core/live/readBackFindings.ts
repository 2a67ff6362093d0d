import type { Finding } from "@/core/findings";
import type { JobDocument } from "@/core/job/jobDocument";
import { readBack } from "@/core/live/readBack";
import { said, together } from "@/core/sentence";

/**
 * Every setting that a device said of itself and that is another than the plan has: as it was read back last. What was
 * planned anew since is compared anew.
 *
 * For example: a meter read back with 100 A where the plan has 200 A: "Primary of the CT, input 1 … 100 A … 200 A".
 */
export function readBackFindings(document: JobDocument): readonly Finding[] {
  const { site } = document;
  return document.readBacks.flatMap(({ id, values }) => {
    const meter = site.meters.find((own) => own.id === id);
    const node = site.nodes.find((own) => own.id === id);
    const name = meter?.name ?? node?.name ?? site.equipment.find((own) => own.id === id)?.name;
    // It went from the plan since.
    if (name === undefined) return [];
    return readBack(document, id, values, undefined)
      .filter(({ isDifferent }) => isDifferent)
      .map(({ what, planned, read, unit, key }): Finding => ({
        id: `read-back:${id}:${key}`,
        code: "read-back-differs",
        severity: "fix",
        stage: "wire",
        subject: meter
          ? { kind: "meter", meter: id }
          : node
            ? { kind: "node", node: id }
            : { kind: "link-device", device: id },
        title: "A device is set otherwise than planned",
        detail: together(
          said`${name}: ${what} is ${shown(read)}${unit && ` ${unit}`}, `,
          said`planned is ${shown(planned ?? "")}${unit && ` ${unit}`}.`,
        ),
        cure: "Set it as planned and read it back, or plan it as it is set",
        source: "The device itself, read back",
      }));
  });
}

/** A number as one that is written as its reader does; a word as it is. */
function shown(value: string): string | number {
  return value !== "" && Number.isFinite(Number(value)) ? Number(value) : value;
}
