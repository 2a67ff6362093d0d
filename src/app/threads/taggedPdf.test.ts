import { Document, Link, Page, Path, Svg, Text, View } from "@react-pdf/renderer";
import { createElement, type ReactElement } from "react";
import { getDocument, type PDFDocumentProxy } from "pdfjs-dist/legacy/build/pdf.mjs";
import { describe, expect, it } from "vitest";
import { registerPdfFonts, warmPdfFonts } from "@/app/threads/pdfFonts";
import { taggedPdf } from "@/app/threads/taggedPdf";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";
import { pdfTag, type PdfTag } from "@/ui/print/pdfTag";

/** What a reader has of a page: roles, their words or what stands for a picture, and what is in them. */
interface Part {
  readonly role: string;
  readonly alt?: string;
  readonly words: string;
  readonly parts: readonly Part[];
}

registerPdfFonts();
const warm = warmPdfFonts();

describe("A tagged PDF", () => {
  it("is read in its order: headings, words, a table by rows and heads, a picture by what it shows", async () => {
    const [page] = await read(
      createElement(
        View,
        {},
        text("Report", pdfTag("H1")),
        text("One line"),
        part("Table", row(["Meter", "Reads"], "TH"), row(["Grid meter", "1.20 kW"], "TD")),
        picture("A house with a clamp"),
      ),
    );
    const [h1, line, table, figure] = page!;
    expect(h1).toMatchObject({ role: "H1", words: "Report" });
    expect(line).toMatchObject({ role: "P", words: "One line" });
    expect(table!.role).toBe("Table");
    expect(table!.parts.map(({ role }) => role)).toEqual(["TR", "TR"]);
    expect(table!.parts[0]!.parts.map(({ role, words }) => `${role} ${words}`)).toEqual(["TH Meter", "TH Reads"]);
    expect(table!.parts[1]!.parts.map(({ role, words }) => `${role} ${words}`)).toEqual([
      "TD Grid meter",
      "TD 1.20 kW",
    ]);
    expect(figure).toMatchObject({ role: "Figure", alt: "A house with a clamp" });
  });

  it("leaves out of what is read the foot of each page, borders, and a picture that says nothing", async () => {
    const [page] = await read(
      createElement(
        View,
        { style: { borderBottomWidth: 1, backgroundColor: "#dddddd" } },
        createElement(Text, { fixed: true, style: { position: "absolute", bottom: 0 } }, "page 1"),
        picture(undefined),
        text("Read me"),
      ),
    );
    expect(page).toEqual([{ role: "P", words: "Read me", parts: [] }]);
  });

  it("goes on with the same part on the next page, and counts a table over two pages once", async () => {
    const rows = Array.from({ length: 60 }, (_, at) => row([`Row ${at}`, "x"], "TD"));
    const pages = await read(part("Table", ...rows));
    expect(pages.length).toBeGreaterThan(1);
    const all = pages.flatMap((page) => page.flatMap(({ role, parts }) => (role === "Table" ? parts : [])));
    expect(all.map(({ parts }) => parts[0]!.words)).toEqual(rows.map((_, at) => `Row ${at}`));
  });

  it("tags a heading that goes on to the next page with its table there, and nothing of it before", async () => {
    const filler = Array.from({ length: 38 }, (_, at) => createElement(Text, { key: at }, `Line ${at}`));
    const table = part("Table", row(["A", "B"], "TD"), row(["C", "D"], "TD"));
    for (let count = 28; count < filler.length; count++) {
      const head = createElement(Text, { ...pdfTag("H2"), minPresenceAhead: 60 }, "Heading");
      const pages = await read(createElement(View, {}, ...filler.slice(0, count), head, table));
      expect(pages.flat().filter(({ role }) => role === "H2")).toMatchObject([{ words: "Heading" }]);
    }
  });

  it("says where a link goes, as a part of what is read", async () => {
    const bytes = await print(
      createElement(
        View,
        {},
        part("TOC", createElement(Link, { src: "#there" }, "To the readings")),
        createElement(View, { id: "there" }, text("Readings")),
      ),
    );
    const document = await opened(bytes);
    const [toc] = await partsOf(document, 1);
    expect(toc).toMatchObject({ role: "TOC", parts: [{ role: "Link", parts: [{ words: "To the readings" }] }] });
    const [annotation] = (await (await document.getPage(1)).getAnnotations()) as object[];
    expect(annotation).toMatchObject({ dest: "there", contentsObj: { str: "To the readings" } });
  });

  it("has its title, its language and that it is tagged where a program looks for them", async () => {
    const document = await opened(await print(text("Bericht"), { title: "Bericht, Ω", language: "de" }));
    const { info } = (await document.getMetadata()) as unknown as { info: object };
    expect(info).toMatchObject({ Title: "Bericht, Ω", Language: "de" });
    expect(await document.getMarkInfo()).toMatchObject({ Marked: true });
  });
});

function text(words: string, props: object = {}): ReactElement {
  return createElement(Text, props, words);
}

function part(role: PdfTag["role"], ...children: readonly ReactElement[]): ReactElement {
  return createElement(View, { ...pdfTag(role), wrap: true }, ...children);
}

function row(cells: readonly string[], role: "TD" | "TH"): ReactElement {
  const words = cells.map((cell, at) => createElement(Text, { key: at, ...pdfTag(role) }, cell));
  return createElement(View, { key: cells[0], ...pdfTag("TR"), wrap: false, style: { borderTopWidth: 1 } }, ...words);
}

function picture(alt: string | undefined): ReactElement {
  const props = { width: 20, height: 20, viewBox: "0 0 20 20", ...(alt ? pdfTag("Figure", alt) : {}) };
  return createElement(Svg, props, createElement(Path, { d: "M0 0L20 20", stroke: "#000000" }));
}

async function print(content: ReactElement, props: object = {}): Promise<Uint8Array> {
  await warm;
  const page = createElement(Page, { size: "A5", style: { fontFamily: [...PDF_FONTS], padding: 30 } }, content);
  return taggedPdf(createElement(Document, props, page));
}

async function opened(bytes: Uint8Array): Promise<PDFDocumentProxy> {
  return getDocument({ data: bytes, useSystemFonts: false, verbosity: 0 }).promise;
}

async function read(content: ReactElement): Promise<readonly (readonly Part[])[]> {
  const document = await opened(await print(content));
  return Promise.all(Array.from({ length: document.numPages }, (_, at) => partsOf(document, at + 1)));
}

interface Node {
  readonly role: string;
  readonly alt?: string;
  readonly children: readonly (Node | { readonly type: string; readonly id: string })[];
}

/** The parts of a page, with the words that stand between the marks of each. */
async function partsOf(document: PDFDocumentProxy, number: number): Promise<readonly Part[]> {
  const page = await document.getPage(number);
  const words = new Map<string, string>();
  const open: (string | undefined)[] = [];
  for (const item of (await page.getTextContent({ includeMarkedContent: true })).items)
    if ("str" in item) {
      const id = open.findLast((own) => own !== undefined);
      if (id) words.set(id, (words.get(id) ?? "") + item.str);
    } else if (item.type === "endMarkedContent") open.pop();
    else open.push(item.id);
  const root = (await page.getStructTree()) as Node | null;
  const [whole] = (root?.children ?? []) as readonly Node[];
  return (whole?.children ?? []).flatMap((child) => ("role" in child ? [partOf(child, words)] : []));
}

function partOf({ role, alt, children }: Node, words: ReadonlyMap<string, string>): Part {
  return {
    role,
    ...(alt ? { alt } : {}),
    words: children.map((child) => ("id" in child ? (words.get(child.id) ?? "") : "")).join(""),
    parts: children.flatMap((child) => ("role" in child ? [partOf(child, words)] : [])),
  };
}
