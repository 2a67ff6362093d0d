import { boardDrawing } from "@/core/board/boardDrawing";
import { serialOf } from "@/core/handover/registration/registrationsDue";
import { section, table } from "@/core/handover/report/section";
import type { ReportSection } from "@/core/handover/report/reportSchema";
import { copyWords } from "@/core/job/copyMark";
import type { JobDocument } from "@/core/job/jobDocument";
import { LINK_WORDS } from "@/core/plan/linkSchema";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { PROGRAM_VERSION } from "@/core/programVersion";
import { arrowWords } from "@/core/site/arrowWords";
import { inputTag } from "@/core/site/inputTag";
import { supplyWords } from "@/core/site/supplyWords";
import { nodeName } from "@/core/site/tree";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { fixedText } from "@/core/units";

/** Site, devices, CTs and links of a report, as they are fitted. For example: a CT's row has its tag, run and ratio. */
export function siteSections(
  document: JobDocument,
  plan: ResolvedPlan,
  entries: readonly VisitEntry[],
): readonly ReportSection[] {
  const { job, site } = document;
  const copy = copyWords(document);
  return [
    section("site", "Site and supply", {
      lines: [
        `${job.name}${job.place ? `, ${job.place}` : ""}`,
        supplyWords(site.supply),
        `Made by Gormit ${PROGRAM_VERSION}`,
        ...(copy ? [copy] : []),
        ...(job.notes ? [job.notes] : []),
      ],
    }),
    section("devices", "Devices", {
      tables: [table("", ["Device", "Kit", "Place", "Serial number"], deviceRows(plan, entries))],
    }),
    section("cts", "CTs as fitted", {
      drawings: [boardDrawing(site, job.colourScheme)],
      tables: [table("", ["CT", "Meter", "Round", "Ratio", "Arrow points", "Leads"], ctRows(plan))],
    }),
    section("links", "Links", {
      tables: [table("", ["Link", "Kind", "Joins", "Cable"], linkRows(plan))],
    }),
  ];
}

function deviceRows(plan: ResolvedPlan, entries: readonly VisitEntry[]): readonly (string | undefined)[][] {
  return plan.joinable.map(({ id, name, kit, place }) => {
    return [name, kit.name, place?.name, serialOf(entries, id)];
  });
}

function ctRows({ site, inputs }: ResolvedPlan): readonly (string | undefined)[][] {
  return inputs.map(({ meter, input, clamp }) => {
    const tag = inputTag(site, meter.id, input.n);
    if (!clamp) return [tag, meter.name, "no CT", `${input.primaryA} A`, "", ""];
    const round = clamp.around.map(({ run, conductor }) => `${conductor} of ${nodeName(site, run)}`);
    const { value, unit } = clamp.secondary;
    const turns = clamp.turns > 1 ? `, ${clamp.turns} turns` : "";
    return [
      tag,
      meter.name,
      round.join(", ") || "nothing",
      `${clamp.primaryA} A : ${value} ${unit}${turns}, typed ${input.primaryA} A`,
      arrowWords(clamp.arrow),
      clamp.leads,
    ];
  });
}

function linkRows({ links }: ResolvedPlan): readonly (string | undefined)[][] {
  return links.map(({ name, kind, ends }) => {
    const cableM = ends.reduce((sum, end) => sum + (end.cableM ?? 0), 0);
    const joined = ends.map(({ device, member }) => {
      const address = member.address === undefined ? "" : `, address ${member.address}`;
      const terminator = member.terminator === true ? ", terminator on" : "";
      return `${device?.name ?? member.item}${address}${terminator}${member.ipv4 ? `, ${member.ipv4}` : ""}`;
    });
    return [name, LINK_WORDS[kind], joined.join("; "), cableM > 0 ? `${fixedText(cableM, 0)} m` : ""];
  });
}
