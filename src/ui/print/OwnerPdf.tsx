import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import type { OwnerLine, OwnerPage } from "@/core/handover/owner/ownerPage";
import { OWNER_PARTS, type OwnerPartId } from "@/core/handover/owner/words/ownerWords";
import { unbroken } from "@/core/units";
import { DrawingPdf } from "@/ui/print/DrawingPdf";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";
import { MarkPdf } from "@/ui/print/MarkPdf";
import { pdfTag } from "@/ui/print/pdfTag";

const styles = StyleSheet.create({
  page: { fontFamily: [...PDF_FONTS], fontSize: 9, padding: 32, color: "#000000" },
  title: { fontSize: 20, fontWeight: 700 },
  heading: { fontSize: 12, fontWeight: 700, marginTop: 8, marginBottom: 2 },
  line: { marginBottom: 2 },
  head: { marginTop: 4, marginBottom: 2, fontWeight: 700 },
  columns: { flexDirection: "row" },
  column: { width: "50%", paddingRight: 10 },
  foot: { marginTop: 14, fontSize: 8, color: "#444444" },
});

const DRAWN = { width: 250, height: 260 };
/** What is short enough to stand beside the picture: one sheet is what is left at a site. */
const BESIDE_PICTURE: readonly OwnerPartId[] = ["shows", "surplus", "usual"];

interface Props {
  readonly page: OwnerPage;
  readonly paper: "A4" | "LETTER";
}

/** What an owner reads, as a sheet of paper to leave there. */
export function OwnerPdf({ page: { language, title, foot, parts }, paper }: Props) {
  return (
    <Document title={title} language={language}>
      <Page size={paper} style={styles.page} wrap>
        <Text {...pdfTag("H1")} style={styles.title}>
          {title}
        </Text>
        <MarkPdf />
        <View style={styles.columns}>
          <View style={styles.column}>{partsOf(parts, ["picture"])}</View>
          <View style={styles.column}>{partsOf(parts, BESIDE_PICTURE)}</View>
        </View>
        {partsOf(
          parts,
          OWNER_PARTS.filter((id) => id !== "picture" && !BESIDE_PICTURE.includes(id)),
        )}
        <Text style={styles.foot}>{foot}</Text>
      </Page>
    </Document>
  );
}

function partsOf(parts: OwnerPage["parts"], wanted: readonly OwnerPartId[]) {
  return parts
    .filter(({ id }) => wanted.includes(id))
    .map(({ id, title, lines, drawing }) => (
      <View key={id} {...pdfTag("Sect")}>
        <Text {...pdfTag("H2")} style={styles.heading} minPresenceAhead={40}>
          {title}
        </Text>
        {drawing && <DrawingPdf drawing={{ ...drawing, title: "" }} {...DRAWN} />}
        {lines.map((line, at) => (
          <Text key={at} {...pdfTag(line.isHead ? "H3" : "P")} style={line.isHead ? styles.head : styles.line}>
            {lineText(line)}
          </Text>
        ))}
      </View>
    ));
}

function lineText({ text, asOnDevice }: OwnerLine): string {
  return unbroken(asOnDevice === undefined ? text : `${text}${text.endsWith(".") ? " " : ": "}${asOnDevice}`);
}
