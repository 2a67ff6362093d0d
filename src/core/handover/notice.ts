import { momentText } from "@/core/momentText";
import { receiversOf } from "@/core/handover/registration/registrationTable";
import { registrationsOf, serialOf } from "@/core/handover/registration/registrationsDue";
import { standingProof } from "@/core/control/stepTest";
import type { Report } from "@/core/handover/report/reportSchema";
import { section, table } from "@/core/handover/report/section";
import type { JobDocument } from "@/core/job/jobDocument";
import type { KitKind } from "@/core/kits/kitSchema";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { resolve } from "@/core/plan/resolve";
import { supplyWords } from "@/core/site/supplyWords";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { powerText } from "@/core/units";

/** What can feed the grid. */
const GENERATING: readonly KitKind[] = ["pv-inverter", "battery-inverter", "hybrid-inverter"];
const RULES =
  "What must be told, by when and on which form, is for the operator and the local rules to say; their form is first.";

/**
 * The notice to the grid operator, filled with the values of a job: supply, what can feed the grid with its capacity
 * and serial numbers, the export limit with its test, what happens without the meter, and when the grid comes back.
 *
 * For example: two inverters of 3.6 kW and 5 kW: "Capacity: 8.6 kW".
 *
 * @param today The day that it is printed, 2026-11-20.
 */
export function gridNotice(
  document: JobDocument,
  entries: readonly VisitEntry[],
  { today, logHead }: { readonly today: string; readonly logHead: string },
): Report {
  const plan = resolve(document);
  const sources = plan.joinable.filter(({ kit }) => GENERATING.includes(kit.kind));
  const last = document.limit.powerW === undefined ? undefined : standingProof(document.limit);
  return {
    language: "en",
    job: document.job.name,
    place: document.job.place,
    printed: today,
    state:
      document.limit.powerW === undefined
        ? "No export limit is set"
        : last?.verdict === "holds"
          ? "The export limit is proved by a step test"
          : "The export limit is not proved yet",
    logHead,
    sections: [
      siteSection(document),
      plantSection(sources, plan, entries),
      limitSection(document),
      protectionSection(sources),
      registrationSection(document, entries),
    ],
  };
}

function siteSection({ job, site, registration }: JobDocument): Report["sections"][number] {
  return section("site", "Site and supply", {
    lines: [
      RULES,
      `${job.name}${job.place ? `, ${job.place}` : ""}`,
      supplyWords(site.supply),
      `Installed on: ${registration.installedOn ?? "not said yet"}`,
    ],
  });
}

function plantSection(
  sources: readonly KitDevice[],
  plan: ResolvedPlan,
  entries: readonly VisitEntry[],
): Report["sections"][number] {
  const totalW = sources.reduce((sum, device) => sum + ratedW(device), 0);
  const storageKwh = plan.joinable.reduce((sum, { kit }) => sum + (kit.ratings.storageKwh ?? 0), 0);
  return section("plant", "What can feed the grid", {
    lines: [
      `Capacity: ${powerText(totalW)}`,
      ...(storageKwh > 0 ? [`Storage: ${Math.round(10 * storageKwh) / 10} kWh`] : []),
    ],
    tables: [
      table(
        "",
        ["Device", "Kit", "Rated power", "Serial number", "There before"],
        sources.map((device) => [
          device.name,
          device.kit.name,
          powerText(ratedW(device)),
          serialOf(entries, device.id) ?? "",
          device.isNew ? "no" : "yes",
        ]),
      ),
    ],
  });
}

function limitSection({ limit }: JobDocument): Report["sections"][number] {
  if (limit.powerW === undefined) return section("limit", "Export limit", { lines: ["No limit is set."] });
  const basis = limit.basis === "sum" ? "on the sum of the phases" : "on each phase";
  const onSite = limit.proofs.filter(({ onBench }) => !onBench);
  return section("limit", "Export limit", {
    lines: [
      `${limit.powerW} W ${basis}, above it for at most ${limit.secondsAllowed} s.`,
      ...(limit.rule === "" ? [] : [`Rule: ${limit.rule}.`]),
    ],
    tables: [
      table(
        "Step tests on site",
        ["When", "Who", "Verdict", "Largest", "Settled"],
        onSite.map(({ at, person, verdict, maxExportW, settledExportW }) => [
          momentText(at),
          person,
          verdict,
          powerText(maxExportW),
          powerText(settledExportW),
        ]),
      ),
    ],
  });
}

/** What the kits say of their protection; what was set in a device is read back, and stands in the report. */
function protectionSection(sources: readonly KitDevice[]): Report["sections"][number] {
  return section("protection", "Protection, as the kits say", {
    lines: ["The settings of the country's grid code are chosen in the device; compare them with its own display."],
    tables: [
      table(
        "",
        ["Device", "Back to the grid after", "Without the meter after", "Then at most"],
        sources.map(({ name, kit }) => [
          name,
          kit.timers.reconnectDelayS === undefined ? "see its manual" : `${kit.timers.reconnectDelayS} s`,
          kit.exportLimit?.failSafe?.timeS === undefined ? "see its manual" : `${kit.exportLimit.failSafe.timeS} s`,
          kit.exportLimit?.failSafe?.fallbackPct === undefined
            ? "see its manual"
            : `${kit.exportLimit.failSafe.fallbackPct} % of its rated power`,
        ]),
      ),
    ],
  });
}

function registrationSection(document: JobDocument, entries: readonly VisitEntry[]): Report["sections"][number] {
  const own = receiversOf(registrationsOf(document, entries)).find(({ id }) => id === "operator");
  return section("notices", "Notices to the operator", {
    lines: own ? [] : ["No kit of this plan asks for one by itself."],
    tables: [
      table(
        "",
        ["What", "Device", "Due on", "Sent on", "Reference"],
        (own?.due ?? []).map(({ kit, device, dueOn, state }) => [
          kit.what,
          device.name,
          dueOn,
          state.sentOn,
          state.reference,
        ]),
      ),
    ],
  });
}

function ratedW({ node, kit }: KitDevice): number {
  return node?.ratedW ?? kit.ratings.powerW ?? 0;
}
