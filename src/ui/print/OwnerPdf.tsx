import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import type { OwnerLine, OwnerPage } from "@/core/handover/owner/ownerPage";
import { unbroken } from "@/core/units";
import { DrawingPdf } from "@/ui/print/DrawingPdf";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";

const styles = StyleSheet.create({
  page: { fontFamily: [...PDF_FONTS], fontSize: 10, padding: 40, color: "#000000" },
  title: { fontSize: 20, fontWeight: 700 },
  heading: { fontSize: 13, fontWeight: 700, marginTop: 12, marginBottom: 3 },
  line: { marginBottom: 2 },
  head: { marginTop: 4, marginBottom: 2, fontWeight: 700 },
  foot: { marginTop: 14, fontSize: 8, color: "#444444" },
});

const DRAWN = { width: 300, height: 330 };

interface Props {
  readonly page: OwnerPage;
  readonly paper: "A4" | "LETTER";
}

/** What an owner reads, as a sheet of paper to leave there. */
export function OwnerPdf({ page: { language, title, foot, parts }, paper }: Props) {
  return (
    <Document title={title} creator="Gormit" producer="Gormit" language={language}>
      <Page size={paper} style={styles.page} wrap>
        <Text style={styles.title}>{title}</Text>
        {parts.map(({ id, title: heading, lines, drawing }) => (
          <View key={id}>
            <Text style={styles.heading} minPresenceAhead={40}>
              {heading}
            </Text>
            {drawing && <DrawingPdf drawing={{ ...drawing, title: "" }} {...DRAWN} />}
            {lines.map((line, at) => (
              <Text key={at} style={line.isHead ? styles.head : styles.line}>
                {lineText(line)}
              </Text>
            ))}
          </View>
        ))}
        <Text style={styles.foot}>{foot}</Text>
      </Page>
    </Document>
  );
}

function lineText({ text, asOnDevice }: OwnerLine): string {
  return unbroken(asOnDevice === undefined ? text : `${text}${text.endsWith(".") ? " " : ": "}${asOnDevice}`);
}
