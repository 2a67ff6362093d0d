import { Document, Page, Path, StyleSheet, Svg, Text, View } from "@react-pdf/renderer";
import { unbroken } from "@/core/units";
import type { Label, LabelKind } from "@/core/visit/labels";
import { pdfTag } from "@/ui/print/pdfTag";
import { PRINT_WORDS } from "@/ui/words/printWords";

/** A sheet of labels: how many across and down on a page of this size, mm; `single` is one label a page. */
export interface SheetForm {
  readonly across: number;
  readonly down: number;
  readonly page: { readonly width: number; readonly height: number };
  readonly margin: { readonly x: number; readonly y: number };
}

export const SHEET_FORMS = {
  "a4-24": { across: 3, down: 8, page: { width: 210, height: 297 }, margin: { x: 0, y: 0.5 } },
  "a4-10": { across: 2, down: 5, page: { width: 210, height: 297 }, margin: { x: 5, y: 13.5 } },
  single: { across: 1, down: 1, page: { width: 70, height: 37 }, margin: { x: 0, y: 0 } },
} as const satisfies Record<string, SheetForm>;

/** The dark and light modules of a QR code, row by row. */
export interface CodeModules {
  readonly size: number;
  readonly data: ArrayLike<number>;
}

/** Families that whoever renders this has registered: text, and the signs that it lacks. */
export const PDF_FONTS = ["Text", "Signs"] as const;

const POINTS_PER_MM = 72 / 25.4;
const KIND_WORDS: Readonly<Record<LabelKind, string>> = {
  clamp: "CT",
  leads: PRINT_WORDS.leads,
  breaker: PRINT_WORDS.breaker,
  invert: PRINT_WORDS.setting,
};

const PADDING_MM = 2.5;
const TITLE_PT = 13;
const LINE_PT = 7;
const LEAST_PT = 4.5;
/** Of a type size, how wide a character is at most on average; capitals and digits are wider than small letters. */
const CHARACTER_EM = 0.62;

const styles = StyleSheet.create({
  page: { fontFamily: [...PDF_FONTS], fontSize: 7, color: "#000000" },
  row: { flexDirection: "row" },
  label: {
    flexDirection: "row",
    padding: mm(PADDING_MM),
    borderWidth: 0.25,
    borderColor: "#999999",
    borderStyle: "dashed",
  },
  words: { paddingRight: mm(1.5) },
  kind: { fontSize: 6 },
  title: { fontSize: 13, fontWeight: 700 },
  line: { marginTop: 1 },
});

/** Labels with their QR codes, cut along the dashed lines. */
export function LabelSheetPdf({
  labels,
  form,
  codes,
  title,
}: {
  labels: readonly Label[];
  form: SheetForm;
  codes: ReadonlyMap<string, CodeModules>;
  title: string;
}) {
  const perPage = form.across * form.down;
  const pages = Array.from({ length: Math.ceil(labels.length / perPage) }, (_, at) =>
    labels.slice(at * perPage, (at + 1) * perPage),
  );
  const size = {
    width: mm((form.page.width - 2 * form.margin.x) / form.across),
    height: mm((form.page.height - 2 * form.margin.y) / form.down),
  };
  const codeSize = mm(form.across > 1 ? 20 : 22);
  const textWidth = size.width - codeSize - 2 * mm(PADDING_MM);
  return (
    <Document title={title}>
      {pages.map((page, number) => (
        <Page
          key={number}
          size={[mm(form.page.width), mm(form.page.height)]}
          style={[styles.page, { paddingHorizontal: mm(form.margin.x), paddingVertical: mm(form.margin.y) }]}
        >
          {Array.from({ length: Math.ceil(page.length / form.across) }, (_, row) => (
            <View key={row} style={styles.row}>
              {page.slice(row * form.across, (row + 1) * form.across).map((label) => (
                <View key={label.id} {...pdfTag("Sect")} style={[styles.label, size]}>
                  <View style={[styles.words, { width: textWidth }]}>
                    <Text style={styles.kind}>{KIND_WORDS[label.kind]}</Text>
                    <Text style={[styles.title, { fontSize: fittedPt(label.title, TITLE_PT, textWidth) }]}>
                      {unbroken(label.title)}
                    </Text>
                    {label.lines.map((line, at) => (
                      <Text key={at} style={[styles.line, { fontSize: fittedPt(line, LINE_PT, textWidth) }]}>
                        {unbroken(line)}
                      </Text>
                    ))}
                  </View>
                  <Code modules={codes.get(label.id)} size={codeSize} about={label.text} />
                </View>
              ))}
            </View>
          ))}
        </Page>
      ))}
    </Document>
  );
}

/** A type size at which the longest word stands in a line: it would run under the code. */
function fittedPt(text: string, usualPt: number, widthPt: number): number {
  const longest = Math.max(
    1,
    ...unbroken(text)
      .split(" ")
      .map((word) => word.length),
  );
  const isLong = text.length > 14 && usualPt === TITLE_PT;
  const most = isLong ? 9.5 : usualPt;
  return Math.max(LEAST_PT, Math.min(most, (widthPt - mm(1.5)) / (CHARACTER_EM * longest)));
}

/** Drawn as one path: a picture of it would be packed and unpacked for each label. */
interface CodeProps {
  readonly modules: CodeModules | undefined;
  readonly size: number;
  /** What the code holds. */
  readonly about: string;
}

function Code({ modules, size, about }: CodeProps) {
  if (!modules) return null;
  const rows = Array.from({ length: modules.size }, (_, y) =>
    Array.from({ length: modules.size }, (__, x) =>
      modules.data[y * modules.size + x] ? `M${x} ${y}h1v1h-1z` : "",
    ).join(""),
  );
  return (
    <Svg
      {...pdfTag("Figure", PRINT_WORDS.codeThatHolds(about))}
      viewBox={`0 0 ${modules.size} ${modules.size}`}
      style={{ width: size, height: size }}
    >
      <Path d={rows.join("")} fill="#000000" />
    </Svg>
  );
}

function mm(length: number): number {
  return length * POINTS_PER_MM;
}
