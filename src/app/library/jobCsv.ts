import type { CsvTable } from "@/app/library/csv";
import { today } from "@/app/library/dateOf";
import { logOfJob } from "@/app/library/logOfJob";
import { saidWiring } from "@/core/links/wiring/saidWiring";
import { asPrinted } from "@/core/job/asPrinted";
import { resolve } from "@/core/plan/resolve";
import { freshSheet } from "@/core/flows/staleReadings";
import { inputTag } from "@/core/site/inputTag";
import { MATERIAL_GROUPS } from "@/core/visit/bring/material";
import { labels } from "@/core/visit/labels";
import { printedMaterials } from "@/core/visit/printedMaterials";
import { visitNames } from "@/core/visit/visitKinds";
import { LOG_WORDS } from "@/core/visit/visitLog";
import { PHASE_WORDS } from "@/core/visit/visitStep";
import type { Job } from "@/db/job";

const WIRING_COLUMNS = [
  "link",
  "cable",
  "colour",
  "pair",
  "signal",
  "from",
  "terminal",
  "pin",
  "ferrule",
  "to",
  "to terminal",
  "to pin",
  "to ferrule",
  "note",
  "done",
];

/** What of a job comes out as a table, by its name. A new one is a line here. */
export const JOB_CSVS = {
  labels: labelTable,
  log: logTable,
  materials: materialTable,
  readings: readingTable,
  wiring: wiringTable,
} satisfies Readonly<Record<string, (job: Job) => CsvTable | Promise<CsvTable>>>;

function labelTable({ document }: Job): CsvTable {
  const rows = labels(document, today()).map(({ id, kind, title, lines }) => ({
    id,
    kind,
    title,
    text: lines.join("; "),
  }));
  return { rows, columns: ["id", "kind", "title", "text"] };
}

async function logTable(job: Job): Promise<CsvTable> {
  const lines = await logOfJob(job);
  const names = visitNames(job.document.visit);
  const rows = lines.map((line) => ({
    at: line.at,
    visit: line.visit === undefined ? "" : (names.get(line.visit) ?? line.visit),
    person: line.person,
    what: LOG_WORDS[line.kind],
    step: line.title,
    text: line.text,
    photo: line.photo ?? "",
    corrected: line.isCorrected ? "yes" : "",
  }));
  return { rows, columns: ["at", "visit", "person", "what", "step", "text", "photo", "corrected"] };
}

function materialTable({ document }: Job): CsvTable {
  const packed = new Set(document.packed);
  const placeName = new Map(document.site.places.map(({ id, name }) => [id, name]));
  const rows = printedMaterials(document).map(({ id, group, text, quantity, unit, why, uses }) => ({
    group: MATERIAL_GROUPS[group],
    item: text,
    quantity,
    unit,
    for: why,
    used: uses
      .map((use) => `${placeName.get(use.place ?? "") ?? "everywhere"}, ${PHASE_WORDS[use.phase]}: ${use.quantity}`)
      .join("; "),
    packed: packed.has(id) ? "yes" : "",
  }));
  return { rows, columns: ["group", "item", "quantity", "unit", "for", "used", "packed"] };
}

function readingTable({ document: { site, tests } }: Job): CsvTable {
  const rows = freshSheet(site, tests).steps.flatMap(({ label, source, readings }, at) =>
    readings.map(({ meter, input, powerW, readAt }) => ({
      step: at + 1,
      switched: label,
      ct: inputTag(site, meter, input),
      meter: site.meters.find(({ id }) => id === meter)?.name ?? meter,
      input,
      "power W": powerW,
      "read at": readAt ?? "",
      simulated: source === "simulated" ? "yes" : "",
    })),
  );
  return { rows, columns: ["step", "switched", "ct", "meter", "input", "power W", "read at", "simulated"] };
}

function wiringTable({ document }: Job): CsvTable {
  const done = new Set(document.terminated);
  const rows = saidWiring(resolve(document), asPrinted(document))
    .flatMap((group) => group.rows)
    .map((row) => ({
      link: row.link,
      cable: row.cable,
      colour: row.colour,
      pair: row.pair,
      signal: row.role,
      from: `${row.from.item} ${row.from.port}`,
      terminal: row.from.terminal,
      pin: row.from.pin ?? "",
      ferrule: row.from.ferrule ?? "",
      to: row.to ? `${row.to.item} ${row.to.port}` : "",
      "to terminal": row.to?.terminal ?? "",
      "to pin": row.to?.pin ?? "",
      "to ferrule": row.to?.ferrule ?? "",
      note: row.notes.join("; "),
      done: done.has(row.id) ? "yes" : "",
    }));
  return { rows, columns: WIRING_COLUMNS };
}
