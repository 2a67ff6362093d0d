import { headPath, type Drawing, type DrawnShape } from "@/core/drawing";

/** A drawing on a page, in the ink of its theme, as wide as there is room. */
export function VectorDrawing({ drawing }: { drawing: Drawing }) {
  return (
    <svg
      role="img"
      aria-label={`${drawing.title}: ${drawing.about}`}
      className="w-full"
      style={{ maxWidth: drawing.width }}
      viewBox={`0 0 ${drawing.width} ${drawing.height}`}
    >
      {drawing.shapes.map((shape, at) => (
        <Shape key={at} shape={shape} />
      ))}
    </svg>
  );
}

const INK = "var(--color-base-content)";
const GROUND = "var(--color-base-100)";

function Shape({ shape }: { shape: DrawnShape }) {
  switch (shape.kind) {
    case "line":
      return <line x1={shape.x1} y1={shape.y1} x2={shape.x2} y2={shape.y2} stroke={INK} strokeWidth={shape.width} />;
    case "box":
      return (
        <rect
          x={shape.x}
          y={shape.y}
          width={shape.width}
          height={shape.height}
          rx={6}
          fill={GROUND}
          stroke={INK}
          strokeWidth={1.5}
        />
      );
    case "text":
      return (
        <text
          x={shape.x}
          y={shape.y}
          textAnchor={shape.anchor}
          fontSize={shape.size}
          fontWeight={shape.bold ? 700 : 400}
          fill={INK}
        >
          {shape.words}
        </text>
      );
    case "head":
      return <path d={headPath(shape)} fill={INK} />;
  }
}
