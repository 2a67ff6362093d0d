import { Font } from "@react-pdf/renderer";
import { join } from "node:path";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";

const [TEXT, SIGNS] = PDF_FONTS;

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
    fonts: [400, 700].map((fontWeight) => ({ src: join(modules, "dejavu-fonts-ttf/ttf/DejaVuSans.ttf"), fontWeight })),
  });
  // A word broken on a label is misread on a ladder.
  Font.registerHyphenationCallback((word) => [word]);
}
