import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import type { WiringGroup } from "@/core/links/wiring/meterWiring";
import { unbroken } from "@/core/units";
import { SIGNAL_WORDS, type CoreEnd, type CoreRow } from "@/core/links/wiring/wiringSchedule";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";
import { MarkPdf } from "@/ui/print/MarkPdf";
import { pdfTag } from "@/ui/print/pdfTag";
import { PRINT_WORDS } from "@/ui/words/printWords";

const styles = StyleSheet.create({
  page: { fontFamily: [...PDF_FONTS], fontSize: 9, padding: 36, color: "#000000" },
  title: { fontSize: 15, fontWeight: 700, marginBottom: 4 },
  quiet: { color: "#444444", marginBottom: 8 },
  link: { fontSize: 11, fontWeight: 700, marginTop: 12, marginBottom: 3 },
  row: { flexDirection: "row", borderTopWidth: 0.5, borderColor: "#999999", paddingVertical: 3 },
  box: { width: 12, height: 12, borderWidth: 0.8, borderColor: "#000000", marginRight: 8 },
  signal: { width: "18%", paddingRight: 4 },
  end: { width: "26%", paddingRight: 4 },
  note: { width: "26%" },
  terminal: { fontSize: 11, fontWeight: 700 },
});

/** The wiring schedule to take to the wall: a row a core, with a box to tick. */
export function WiringPdf({
  job,
  groups,
  done,
  printed,
}: {
  job: string;
  groups: readonly WiringGroup[];
  done: ReadonlySet<string>;
  printed: string;
}) {
  return (
    <Document title={PRINT_WORDS.wiring(job)}>
      <Page size="A4" style={styles.page}>
        <Text {...pdfTag("H1")} style={styles.title}>
          {PRINT_WORDS.wiringOf(job)}
        </Text>
        <MarkPdf />
        <Text style={styles.quiet}>{PRINT_WORDS.isolateAndProveDeadBeforeATerminal(printed)}</Text>
        {groups.map(({ id, name, rows }) => (
          <View key={id} {...pdfTag("Sect")}>
            <Text {...pdfTag("H2")} style={styles.link} minPresenceAhead={40}>
              {name}
            </Text>
            <View {...pdfTag("Table")}>
              {rows.map((row) => (
                <Core key={row.id} row={row} isDone={done.has(row.id)} />
              ))}
            </View>
          </View>
        ))}
      </Page>
    </Document>
  );
}

function Core({ row, isDone }: { row: CoreRow; isDone: boolean }) {
  return (
    <View {...pdfTag("TR")} style={styles.row} wrap={false}>
      <View {...pdfTag("TD")} style={styles.box}>
        {isDone && <Text style={{ fontSize: 9 }}>✓</Text>}
      </View>
      <View {...pdfTag("TD")} style={styles.signal}>
        <Text>{unbroken(SIGNAL_WORDS[row.role] ?? row.role)}</Text>
        <Text>{unbroken(row.colour)}</Text>
        <Text>{unbroken(row.pair)}</Text>
      </View>
      <View {...pdfTag("TD")} style={styles.end}>
        <End end={row.from} />
      </View>
      <View {...pdfTag("TD")} style={styles.end}>
        {row.to ? <End end={row.to} /> : <Text>–</Text>}
      </View>
      <View {...pdfTag("TD")} style={styles.note}>
        {row.notes.map((note) => (
          <Text key={note}>{unbroken(note)}</Text>
        ))}
      </View>
    </View>
  );
}

function End({ end }: { end: CoreEnd }) {
  return (
    <>
      <Text style={styles.terminal}>
        {end.terminal}
        {end.pin === undefined ? "" : PRINT_WORDS.pin(end.pin)}
      </Text>
      <Text>
        {end.item}, {end.port}
      </Text>
      {end.ferrule ? <Text>{unbroken(PRINT_WORDS.ferrule(end.ferrule))}</Text> : null}
    </>
  );
}
