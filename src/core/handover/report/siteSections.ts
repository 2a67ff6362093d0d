import { boardDrawing } from "@/core/board/boardDrawing";
import { serialOf } from "@/core/handover/registration/registrationsDue";
import { section, table } from "@/core/handover/report/section";
import type { ReportWords } from "@/core/handover/report/words/reportWords";
import type { ReportSection } from "@/core/handover/report/reportSchema";
import { printedStyle } from "@/core/job/asPrinted";
import { copyWords } from "@/core/job/copyMark";
import type { JobDocument } from "@/core/job/jobDocument";
import { lengthText } from "@/core/numberStyle";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { PROGRAM_VERSION } from "@/core/programVersion";
import { inputTag } from "@/core/site/inputTag";
import { nodeName } from "@/core/site/tree";
import type { VisitEntry } from "@/core/visit/visitEntry";

/** Site, devices, CTs and links of a report, as they are fitted. For example: a CT's row has its tag, run and ratio. */
export function siteSections(
  document: JobDocument,
  plan: ResolvedPlan,
  entries: readonly VisitEntry[],
  words: ReportWords,
): readonly ReportSection[] {
  const { job, site } = document;
  const { parts, heads } = words;
  const copy = copyWords(document);
  return [
    section("site", parts.site, {
      lines: [
        `${job.name}${job.place ? `, ${job.place}` : ""}`,
        words.supply(site.supply),
        words.madeBy(PROGRAM_VERSION),
        ...(copy ? [copy] : []),
        ...(job.notes ? [job.notes] : []),
      ],
    }),
    section("devices", parts.devices, {
      tables: [table("", heads.devices, deviceRows(plan, entries))],
    }),
    section("cts", parts.cts, {
      drawings: [boardDrawing(site, job.colourScheme)],
      tables: [table("", heads.cts, ctRows(plan, words))],
    }),
    section("links", parts.links, {
      tables: [table("", heads.links, linkRows(plan, words))],
    }),
  ];
}

function deviceRows(plan: ResolvedPlan, entries: readonly VisitEntry[]): readonly (string | undefined)[][] {
  return plan.joinable.map(({ id, name, kit, place }) => {
    return [name, kit.name, place?.name, serialOf(entries, id)];
  });
}

function ctRows({ site, inputs }: ResolvedPlan, words: ReportWords): readonly (string | undefined)[][] {
  return inputs.map(({ meter, input, clamp }) => {
    const tag = inputTag(site, meter.id, input.n);
    if (!clamp) return [tag, meter.name, words.noCt, `${input.primaryA} A`, "", ""];
    const round = clamp.around.map(({ run, conductor }) => words.round(conductor, nodeName(site, run)));
    const { value, unit } = clamp.secondary;
    return [
      tag,
      meter.name,
      round.join(", ") || words.nothing,
      words.ratio(clamp.primaryA, `${value} ${unit}`, clamp.turns, input.primaryA),
      words.arrows[clamp.arrow],
      clamp.leads,
    ];
  });
}

function linkRows({ site, links }: ResolvedPlan, words: ReportWords): readonly (string | undefined)[][] {
  const style = printedStyle({ site });
  return links.map(({ name, kind, ends }) => {
    const cableM = ends.reduce((sum, end) => sum + (end.cableM ?? 0), 0);
    const joined = ends.map(({ device, member }) => {
      const address = member.address === undefined ? "" : `, ${words.address(member.address)}`;
      const terminator = member.terminator === true ? `, ${words.terminatorOn}` : "";
      return `${device?.name ?? member.item}${address}${terminator}${member.ipv4 ? `, ${member.ipv4}` : ""}`;
    });
    return [name, words.linkKinds[kind], joined.join("; "), cableM > 0 ? lengthText(cableM, style) : ""];
  });
}
