import { createHash, randomUUID } from "node:crypto";
import sharp from "sharp";
import ICAL from "ical.js";
import { beforeAll, describe, expect, it } from "vitest";
import { chainCheckSchema } from "@/core/handover/logChain";
import { reportAnswerSchema, reportSchema } from "@/core/handover/report/reportSchema";
import { demoDocument } from "../fixtures/demoDocument";
import { flat, readPdf } from "../fixtures/readPdf";
import { fromTestRun } from "../setup/environment";

const document = demoDocument("tollgate-cottage");

describe("the report of a job", () => {
  let job = "";
  const at = (path: string) => `${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs${path}`;
  beforeAll(async () => {
    const response = await fetch(at("/import"), {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ ...document, job: { ...document.job, name: "Report, Ω and ±" } }),
    });
    job = ((await response.json()) as { id: string }).id;
    await fetch(at(`/${job}/visit`), {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({
        entries: [
          {
            id: "7d5c3f8e-6f0b-4a52-9a57-6d0f1a2b3c4d",
            at: "2026-05-06T10:00:00.000Z",
            person: "Kim",
            kind: "note",
            text: "Cover of the board was cracked before",
          },
        ],
      }),
    });
  });

  it("is a PDF whose text holds every reading, every CT, the log, page numbers and its fingerprint", async () => {
    const data = (await (await fetch(at(`/${job}/report.json`))).json()) as { sha256: string; report: unknown };
    const report = reportSchema.parse(data.report);
    expect(createHash("sha256").update(JSON.stringify(data.report)).digest("hex")).toBe(data.sha256);
    const response = await fetch(at(`/${job}/report.pdf`));
    expect(response.headers.get("content-type")).toBe("application/pdf");
    const { text, pages, title, roles } = await readPdf(new Uint8Array(await response.arrayBuffer()));
    expect(title).toBe("Report of Report, Ω and ±");
    expect(roles.filter((role) => role === "H1")).toHaveLength(1);
    expect(roles.filter((role) => role === "H2")).toHaveLength(report.sections.length);
    expect(roles.filter((role) => role === "TH").length).toBe(
      report.sections.flatMap(({ tables }) => tables.flatMap(({ heads }) => heads)).length,
    );
    expect(pages).toBeGreaterThan(1);
    for (const { title: heading, tables } of report.sections) {
      expect(text).toContain(flat(heading));
      for (const { rows } of tables) for (const cell of rows.flat()) expect(text, cell).toContain(flat(cell));
    }
    expect(text).toContain(flat(`page 1 of ${pages}`));
    expect(text).toContain(data.sha256);
    expect(text).toContain(flat("Cover of the board was cracked before"));
  });

  it("is in German where that is asked for, and refuses a language that it has not", async () => {
    const german = await fetch(at(`/${job}/report.json?language=de`));
    const { report } = reportAnswerSchema.parse(await german.json());
    expect(report.sections[0]!.title).toBe("Was nachgewiesen ist, und was nicht");
    const { text, title } = await readPdf(
      new Uint8Array(await (await fetch(at(`/${job}/report.pdf?language=de`))).arrayBuffer()),
    );
    expect(title).toBe("Bericht über Report, Ω and ±");
    expect(text).toContain("Seite1von");
    const refused = await fetch(at(`/${job}/report.pdf?language=xx`));
    expect(refused.status).toBe(400);
    expect(await refused.text()).toContain("language");
  });

  it("is short where it is asked for so, on the paper that is asked for, and refuses another", async () => {
    const short = await readPdf(new Uint8Array(await (await fetch(at(`/${job}/report.pdf?form=short`))).arrayBuffer()));
    expect(short.text).not.toContain(flat("The log"));
    const letter = await readPdf(
      new Uint8Array(await (await fetch(at(`/${job}/report.pdf?form=short&paper=letter`))).arrayBuffer()),
    );
    expect([short.width, letter.width].map(Math.round)).toEqual([595, 612]);
    expect((await fetch(at(`/${job}/report.pdf?paper=a3`))).status).toBe(400);
  });

  it.each(["brindle-dairy", "fennel-court", "larkspur-house", "tollgate-cottage"])(
    "is on two pages in its short form, of %s",
    async (name) => {
      const made = await fetch(at("/import"), {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify(demoDocument(name)),
      });
      const { id } = (await made.json()) as { id: string };
      for (const paper of ["a4", "letter"]) {
        const report = await fetch(at(`/${id}/report.pdf?form=short&paper=${paper}`));
        expect((await readPdf(new Uint8Array(await report.arrayBuffer()))).pages).toBe(2);
      }
    },
  );

  it("draws the board with every CT, and shows the photographs with their captions, those of before too", async () => {
    const photo = randomUUID();
    const noise = { type: "gaussian" as const, mean: 120, sigma: 40 };
    const create = { width: 1600, height: 1200, channels: 3 as const, background: "#446688", noise };
    const picture = new Uint8Array(await sharp({ create }).jpeg().toBuffer());
    const put = await fetch(at(`/${job}/photos/${photo}`), {
      method: "PUT",
      headers: { "content-type": "image/jpeg" },
      body: picture,
    });
    expect(put.status).toBe(200);
    const before = (await (await fetch(at(`/${job}/report.pdf`))).arrayBuffer()).byteLength;
    const line = { at: "2026-05-06T11:00:00.000Z", person: "Kim", kind: "photo", photo, text: "Meter cupboard" };
    const missing = { ...line, photo: randomUUID(), text: "Never arrived" };
    const entries = [line, missing].map((own) => ({ ...own, id: randomUUID() }));
    await fetch(at(`/${job}/visit`), {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ entries }),
    });
    const bytes = new Uint8Array(await (await fetch(at(`/${job}/report.pdf`))).arrayBuffer());
    // As small as it is printed, and there.
    expect(bytes.byteLength - before).toBeGreaterThan(5_000);
    expect(bytes.byteLength - before).toBeLessThan(picture.byteLength);
    const { text } = await readPdf(bytes);
    for (const caption of ["Meter cupboard", "Never arrived", "The board, with the CTs as fitted"])
      expect(text).toContain(flat(caption));
    const short = await readPdf(new Uint8Array(await (await fetch(at(`/${job}/report.pdf?form=short`))).arrayBuffer()));
    expect(short.text).not.toContain(flat("Meter cupboard"));
  });

  it("can be searched and copied to the last sign, whatever this thread printed before", async () => {
    // Labels have colons and no full stop: a dot that was met first as a part of a colon was once printed without text.
    await fetch(at(`/${job}/labels.pdf?form=single`));
    const { text } = await readPdf(new Uint8Array(await (await fetch(at(`/${job}/report.pdf`))).arrayBuffer()));
    expect(text).toContain(flat("1. What is proved, and what is not 2. Site and supply"));
  });

  it("has the owner's sheet in each language, which says which it is", async () => {
    const sheet = async (language: string) =>
      readPdf(new Uint8Array(await (await fetch(at(`/${job}/owner.pdf?language=${language}`))).arrayBuffer()));
    const [english, german] = [await sheet("en"), await sheet("de")];
    expect([english.title, german.title]).toEqual(["Your site", "Ihre Anlage"]);
    // One sheet of paper, printed on one side.
    expect([english.pages, german.pages]).toEqual([1, 1]);
    expect(german.text).toContain(flat("Öffnen Sie keine Abdeckung"));
    expect(english.text).not.toContain(flat(document.job.place));
    expect((await fetch(at(`/${job}/owner.pdf?language=xx`))).status).toBe(400);
  });

  it("gives its deadlines as a calendar that a standard parser reads, each with its reminder", async () => {
    const saved = (await (await fetch(at(`/${job}`))).json()) as { revision: number; document: typeof document };
    const due = { id: "0d5c3f8e-6f0b-4a52-9a57-6d0f1a2b3c4d", what: "Register the inverter", on: "2026-12-24" };
    const deadlines = [
      { ...due, remindDays: 7, lost: "two years of warranty" },
      { ...due, id: "1d5c3f8e-6f0b-4a52-9a57-6d0f1a2b3c4d", remindDays: 7, lost: "", doneOn: "2026-11-20" },
    ];
    const put = await fetch(at(`/${job}`), {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ revision: saved.revision, document: { ...saved.document, deadlines } }),
    });
    expect(put.status).toBe(200);
    const response = await fetch(at(`/${job}/deadlines.ics`));
    expect(response.headers.get("content-type")).toContain("text/calendar");
    const calendar = new ICAL.Component(ICAL.parse(await response.text()) as unknown[]);
    const events = calendar.getAllSubcomponents("vevent");
    // Those of its registrations stand there too.
    expect(events).toHaveLength(3);
    const at24th = events.findIndex((own) => new ICAL.Event(own).startDate.toString() === "2026-12-24");
    const event = new ICAL.Event(events[at24th]!);
    expect(event.summary).toContain("Register the inverter");
    expect(event.description).toContain("two years of warranty");
    expect(event.startDate.toString()).toBe("2026-12-24");
    const trigger = events[at24th]!.getFirstSubcomponent("valarm")!.getFirstPropertyValue("trigger");
    expect(String(trigger)).toBe("-P7D");
  });

  it("has the last hash of a log that is as it was written", async () => {
    const check = chainCheckSchema.parse(await (await fetch(at(`/${job}/log/check`))).json());
    expect(check).toMatchObject({ lines: 3, broken: null });
    const { report } = (await (await fetch(at(`/${job}/report.json`))).json()) as { report: { logHead: string } };
    expect(report.logHead).toBe(check.head);
    const line = (await (await fetch(at(`/${job}/log.chain`))).text()).trimEnd().split("\n").at(-1);
    expect(line!.startsWith(`${check.head} {`)).toBe(true);
  });
});
