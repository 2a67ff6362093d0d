import {
  Document,
  G,
  Image as Picture,
  Line,
  Link,
  Page,
  Path,
  StyleSheet,
  Svg,
  Text,
  View,
} from "@react-pdf/renderer";
import { REPORT_LANGUAGES } from "@/core/handover/report/words/reportLanguages";
import type { Report, ReportCourse, ReportSection, ReportTable } from "@/core/handover/report/reportSchema";
import { SIGNATURE_BOX, strokePath, type Signature } from "@/core/handover/version/signature";
import { unbroken } from "@/core/units";
import { DrawingPdf } from "@/ui/print/DrawingPdf";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";
import { MarkPdf } from "@/ui/print/MarkPdf";
import { pdfTag } from "@/ui/print/pdfTag";
import { PRINT_WORDS } from "@/ui/words/printWords";

const styles = StyleSheet.create({
  page: {
    fontFamily: [...PDF_FONTS],
    fontSize: 9,
    paddingTop: 40,
    paddingBottom: 48,
    paddingHorizontal: 40,
    color: "#000000",
  },
  title: { fontSize: 20, fontWeight: 700 },
  state: { fontSize: 13, fontWeight: 700, marginTop: 6, marginBottom: 6 },
  heading: {
    fontSize: 13,
    fontWeight: 700,
    marginTop: 16,
    marginBottom: 4,
    borderBottomWidth: 1,
    borderColor: "#000000",
  },
  table: { fontWeight: 700, marginTop: 8, marginBottom: 2 },
  line: { marginBottom: 3 },
  content: { marginBottom: 2, color: "#000000", textDecoration: "none" },
  row: { flexDirection: "row", borderTopWidth: 0.5, borderColor: "#999999", paddingVertical: 2 },
  cell: { paddingRight: 6 },
  signed: { marginTop: 16, borderBottomWidth: 1, borderColor: "#000000", width: 260 },
  beside: { flexDirection: "row", flexWrap: "wrap" },
  half: { width: "50%", paddingRight: 10, fontSize: 7 },
  pictures: { flexDirection: "row", flexWrap: "wrap" },
  picture: { width: "50%", paddingRight: 10, paddingTop: 8 },
  image: { maxHeight: 180, objectFit: "contain", objectPositionX: 0 },
  foot: { position: "absolute", bottom: 20, left: 40, right: 40, fontSize: 7, color: "#444444" },
});

const DRAWN = { width: 510, height: 560 };
/** Two pages are read by whoever has a minute. */
const DRAWN_SHORT = { width: 510, height: 250 };
const LEAST_BELOW_HEADING = 110;
const LEAST_BELOW_HEAD = 40;
const CHART = { width: 500, height: 150, left: 50, bottom: 18 };

interface Props {
  /** Where it is no report. */
  readonly title?: string;
  readonly report: Report;
  readonly fingerprint: string;
  readonly paper: "A4" | "LETTER";
  /** Set close, without contents: on two pages where the site is no large one. */
  readonly isShort?: boolean;
  /** Photographs as JPEG, by their ids; one that is not there is told by its caption. */
  readonly pictures: Readonly<Record<string, Uint8Array>>;
  /** Of a hand over: which one it is, and who signed. */
  readonly number?: number;
  readonly signatures?: readonly Signature[];
}

/** A report to print and to send: contents, its parts in order, page numbers, the fingerprint of its data on each. */
export function ReportPdf({
  title,
  report,
  fingerprint,
  paper,
  pictures,
  isShort = false,
  number,
  signatures = [],
}: Props) {
  const { words } = REPORT_LANGUAGES[report.language];
  return (
    <Document title={title ?? words.reportOf(report.job)} language={report.language}>
      <Page size={paper} style={styles.page} wrap>
        <Text {...pdfTag("H1")} style={styles.title}>
          {title ?? report.job}
        </Text>
        <MarkPdf />
        {number !== undefined && <Text>{words.version(number)}</Text>}
        <Text>{[report.place, report.printed].filter(Boolean).join(", ")}</Text>
        <Text style={styles.state}>{report.state === words.items.state(0) ? words.done : report.state}</Text>
        {!isShort && <Contents sections={report.sections} />}
        {report.sections.map((section, at) => (
          <Section key={section.id} section={section} number={at + 1} pictures={pictures} isShort={isShort} />
        ))}
        {signatures.map((signature) => (
          <Signed key={signature.role} signature={signature} who={words.signers[signature.role]} />
        ))}
        <Text
          fixed
          style={styles.foot}
          render={({ pageNumber, totalPages }) =>
            PRINT_WORDS.sha256(
              report.job,
              words.page(pageNumber, totalPages),
              words.data,
              fingerprint,
              words.log,
              report.logHead,
            )
          }
        />
      </Page>
    </Document>
  );
}

function Contents({ sections }: Pick<Report, "sections">) {
  return (
    <View {...pdfTag("TOC")}>
      {sections.map(({ id, title }, at) => (
        <View key={id} {...pdfTag("TOCI")}>
          <Link src={`#${id}`} style={styles.content}>
            {at + 1}. {title}
          </Link>
        </View>
      ))}
    </View>
  );
}

/** A signature as it was drawn, with for whom and by whom. */
function Signed({ signature: { name, strokes }, who }: { signature: Signature; who: string }) {
  const { width, height } = SIGNATURE_BOX;
  return (
    <View wrap={false} {...pdfTag("Sect")} style={styles.signed}>
      <Text {...pdfTag("H3")} style={styles.table}>
        {who}: {name}
      </Text>
      <Svg
        {...pdfTag("Figure", PRINT_WORDS.signatureOf(name))}
        width={width / 4}
        height={height / 4}
        viewBox={`0 0 ${width} ${height}`}
      >
        {strokes.map((stroke, at) => (
          <Path key={at} d={strokePath(stroke)} stroke="#000000" strokeWidth={6} fill="none" strokeLinecap="round" />
        ))}
      </Svg>
    </View>
  );
}

interface SectionProps extends Pick<Props, "pictures" | "isShort"> {
  readonly section: ReportSection;
  readonly number: number;
}

function Section({ section, number, pictures, isShort }: SectionProps) {
  const room = isShort ? DRAWN_SHORT : DRAWN;
  const [first] = section.drawings;
  // A heading goes on to the next page with what it is of.
  const below = first ? Math.min(first.height, room.height) : 0;
  return (
    <View id={section.id} {...pdfTag("Sect")}>
      <Text {...pdfTag("H2")} style={styles.heading} minPresenceAhead={LEAST_BELOW_HEADING + below}>
        {number}. {section.title}
      </Text>
      {section.lines.map((line) => (
        <Text key={line} style={styles.line}>
          {unbroken(line)}
        </Text>
      ))}
      {section.drawings.map((drawing) => (
        <DrawingPdf key={drawing.title} drawing={drawing} {...room} />
      ))}
      <View style={isShort && section.tables.length > 1 ? styles.beside : {}}>
        {section.tables.map((table, at) => (
          <View key={at} style={isShort && section.tables.length > 1 ? styles.half : {}}>
            <Table table={table} />
          </View>
        ))}
      </View>
      {section.courses.map((course, at) => (
        <Course key={at} course={course} />
      ))}
      <View style={styles.pictures}>
        {section.pictures.map(({ id, caption }) => (
          <View key={id} wrap={false} style={styles.picture}>
            {pictures[id] && (
              <Picture
                {...pdfTag("Figure", caption)}
                src={{ data: Buffer.from(pictures[id]), format: "jpg" }}
                style={styles.image}
              />
            )}
            <Text>{unbroken(caption)}</Text>
          </View>
        ))}
      </View>
    </View>
  );
}

function Table({ table: { title, heads, rows } }: { table: ReportTable }) {
  const widths = columnWidths(heads, rows);
  return (
    <View>
      {title !== "" && (
        <Text {...pdfTag("H3")} style={styles.table} minPresenceAhead={40}>
          {unbroken(title)}
        </Text>
      )}
      <View {...pdfTag("Table")}>
        <Row cells={heads} widths={widths} isHead />
        {rows.map((row, at) => (
          <Row key={at} cells={row} widths={widths} isHead={false} />
        ))}
      </View>
    </View>
  );
}

function Row({ cells, widths, isHead }: { cells: readonly string[]; widths: readonly number[]; isHead: boolean }) {
  return (
    <View {...pdfTag("TR")} style={styles.row} wrap={false} minPresenceAhead={isHead ? LEAST_BELOW_HEAD : 0}>
      {cells.map((cell, at) => (
        <Text
          key={at}
          {...pdfTag(isHead ? "TH" : "TD")}
          style={[styles.cell, { width: `${widths[at]}%` }, isHead ? { fontWeight: 700 } : {}]}
        >
          {unbroken(cell)}
        </Text>
      ))}
    </View>
  );
}

/** By what stands in them, none narrower than a tenth: long columns get more, and no word is cut. */
function columnWidths(heads: readonly string[], rows: readonly (readonly string[])[]): readonly number[] {
  const lengths = heads.map((head, at) =>
    Math.min(60, Math.max(8, head.length, ...rows.map((row) => Math.min(60, row[at]?.length ?? 0)))),
  );
  const total = lengths.reduce((sum, own) => sum + own, 0);
  return lengths.map((own) => (100 * own) / total);
}

/** A recorded course as a line, with the value that it is held to. */
function Course({ course: { title, unit, tS, values, mark } }: { course: ReportCourse }) {
  const most = Math.max(mark.value, ...values) * 1.1 || 1;
  const least = Math.min(0, ...values);
  const lastS = tS.at(-1) || 1;
  const x = (t: number) => CHART.left + (t / lastS) * (CHART.width - CHART.left);
  const y = (value: number) => (CHART.height - CHART.bottom) * (1 - (value - least) / (most - least));
  const path = values
    .map((value, at) => `${at === 0 ? "M" : "L"}${x(tS[at]!).toFixed(1)} ${y(value).toFixed(1)}`)
    .join("");
  return (
    <View wrap={false}>
      <Text {...pdfTag("H3")} style={styles.table}>
        {title}
      </Text>
      <Svg
        {...pdfTag("Figure", PRINT_WORDS.fromTo(title, Math.round(least), Math.round(Math.max(...values)), unit))}
        width={CHART.width}
        height={CHART.height}
        viewBox={`0 0 ${CHART.width} ${CHART.height}`}
      >
        <Line x1={CHART.left} y1={y(0)} x2={CHART.width} y2={y(0)} stroke="#000000" strokeWidth={0.5} />
        <Line
          x1={CHART.left}
          y1={y(mark.value)}
          x2={CHART.width}
          y2={y(mark.value)}
          stroke="#000000"
          strokeDasharray="4 3"
        />
        <Path d={path} stroke="#000000" strokeWidth={1.2} fill="none" />
        <G>
          <Text x={CHART.left + 4} y={y(mark.value) - 3} style={{ fontFamily: [...PDF_FONTS], fontSize: 7 }}>
            {mark.words}
          </Text>
          <Text x={0} y={8} style={{ fontFamily: [...PDF_FONTS], fontSize: 7 }}>
            {`${Math.round(most)} ${unit}`}
          </Text>
          <Text x={CHART.width - 40} y={CHART.height - 4} style={{ fontFamily: [...PDF_FONTS], fontSize: 7 }}>
            {`${Math.round(lastS)} s`}
          </Text>
        </G>
      </Svg>
    </View>
  );
}
