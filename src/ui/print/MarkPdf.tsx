import { Path, Rect, Svg, Text, View } from "@react-pdf/renderer";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";
import { PRINT_WORDS } from "@/ui/words/printWords";

const AT = { position: "absolute", top: 24, right: 32, flexDirection: "row", alignItems: "center" } as const;

/** The mark of Gormit at the top of a print-out, in black: a CT round a conductor with its arrow. */
export function MarkPdf() {
  return (
    <View style={AT}>
      <Svg width={16} height={16} viewBox="0 0 32 32">
        <Rect x={0} y={0} width={32} height={32} rx={7} fill="#000000" />
        <Path d="M3 11h26M3 21h26" stroke="#ffffff" strokeWidth={2.4} fill="none" />
        <Rect x={9} y={5} width={12} height={12} rx={3} fill="#ffffff" />
        <Path d="m13 8 4 3-4 3" stroke="#000000" strokeWidth={2.2} fill="none" />
      </Svg>
      <Text style={{ fontFamily: [...PDF_FONTS], fontSize: 10, fontWeight: 700, marginLeft: 4 }}>
        {PRINT_WORDS.gormit}
      </Text>
    </View>
  );
}
