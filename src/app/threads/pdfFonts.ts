import { Document, Font, Page, renderToBuffer, Text } from "@react-pdf/renderer";
import { join } from "node:path";
import { createElement } from "react";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";

const [TEXT, SIGNS] = PDF_FONTS;
const WEIGHTS = [400, 700] as const;
/** What the printed pages hold of Latin, Greek and Cyrillic letters, digits and signs. */
const CHARACTERS = [
  [0x20, 0x17f],
  [0x370, 0x3ff],
  [0x400, 0x45f],
  [0x2010, 0x2044],
  [0x2070, 0x2265],
] as const;

/**
 * Make the fonts that ship with the app known to the PDF renderer. The text face has no Ω µ ≥ →; the second one has.
 */
export function registerPdfFonts(): void {
  const modules = join(process.cwd(), "node_modules");
  const face = (weight: number) =>
    join(
      modules,
      `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
    );
  Font.register({
    family: TEXT,
    fonts: [
      { src: face(400), fontWeight: 400 },
      { src: face(700), fontWeight: 700 },
    ],
  });
  Font.register({
    family: SIGNS,
    fonts: WEIGHTS.map((fontWeight) => ({ src: join(modules, "dejavu-fonts-ttf/ttf/DejaVuSans.ttf"), fontWeight })),
  });
  // A word broken on a label is misread on a ladder.
  Font.registerHyphenationCallback((word) => [word]);
}

/**
 * Lay every character of every face out once, before anything is printed: the renderer keeps each glyph as it met it
 * first, and one that it met as a part of another (the dot of a colon) would be printed and could be neither searched
 * nor copied, in every document of this thread from then on.
 */
export async function warmPdfFonts(): Promise<void> {
  const text = CHARACTERS.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, at) => from + at))
    .map((code) => String.fromCodePoint(code))
    .join(" ");
  const faces = PDF_FONTS.flatMap((fontFamily) => WEIGHTS.map((fontWeight) => ({ fontFamily, fontWeight })));
  const lines = faces.map((style, at) => createElement(Text, { key: at, style }, text));
  await renderToBuffer(createElement(Document, {}, createElement(Page, { size: "A4" }, ...lines)));
}
