import { Line, Path, Rect, Svg, Text, View } from "@react-pdf/renderer";
import { PDF_FONTS } from "@/ui/print/LabelSheetPdf";
import { pdfTag } from "@/ui/print/pdfTag";
import { headPath, type Drawing, type DrawnShape } from "@/core/drawing";

interface Props {
  readonly drawing: Drawing;
  /** Room on the page, points; it is never drawn larger than it is. */
  readonly width: number;
  readonly height: number;
}

/** A drawing on paper, as vectors, as large as there is room. */
export function DrawingPdf({ drawing, width, height }: Props) {
  const scale = Math.min(1, width / drawing.width, height / drawing.height);
  return (
    <View wrap={false} style={{ marginTop: 8 }}>
      {drawing.title !== "" && (
        <Text {...pdfTag("H3")} style={{ fontWeight: 700, marginBottom: 2 }}>
          {drawing.title}
        </Text>
      )}
      <Svg
        {...pdfTag("Figure", drawing.about)}
        width={drawing.width * scale}
        height={drawing.height * scale}
        viewBox={`0 0 ${drawing.width} ${drawing.height}`}
      >
        {drawing.shapes.map((shape, at) => (
          <Shape key={at} shape={shape} />
        ))}
      </Svg>
    </View>
  );
}

function Shape({ shape }: { shape: DrawnShape }) {
  switch (shape.kind) {
    case "line": {
      const { colour, width, x1, y1, x2, y2 } = shape;
      return <Line x1={x1} y1={y1} x2={x2} y2={y2} stroke={colour} strokeWidth={width} />;
    }
    case "box": {
      const { x, y, width, height, fill, stroke } = shape;
      return <Rect x={x} y={y} width={width} height={height} rx={2} fill={fill} stroke={stroke} strokeWidth={0.8} />;
    }
    case "text":
      return (
        <Text
          x={shape.x}
          y={shape.y}
          textAnchor={shape.anchor}
          style={{ fontFamily: [...PDF_FONTS], fontSize: shape.size, fontWeight: shape.bold ? 700 : 400 }}
        >
          {shape.words}
        </Text>
      );
    case "head":
      return <Path d={headPath(shape)} fill="#000000" />;
  }
}
