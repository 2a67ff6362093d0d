import type { RailBoardLayout } from "@/core/board/railBoard";
import { COLOUR_SCHEMES, type ColourScheme } from "@/core/site/conductorColours";

interface Props {
  readonly layout: RailBoardLayout;
  readonly scheme: ColourScheme;
  readonly railWidth: number;
  readonly named: boolean;
}

/**
 * The fixed part of a board: rails in the wiring colours, outlined so that black and white show on any ground, and
 * posts.
 */
export function RailDrawing({ layout, scheme, railWidth, named }: Props) {
  const { colours } = COLOUR_SCHEMES[scheme];
  return (
    <svg width={layout.width} height={layout.height} className="absolute inset-0" aria-hidden>
      {layout.rails.map(({ run, conductor, x1, x2, y }) => (
        <g key={`${run} ${conductor}`}>
          <line
            x1={x1}
            x2={x2}
            y1={y}
            y2={y}
            stroke="var(--color-base-content)"
            strokeOpacity={0.65}
            strokeWidth={railWidth + 3}
          />
          <line x1={x1} x2={x2} y1={y} y2={y} stroke={colours[conductor].hex} strokeWidth={railWidth} />
          {named && (
            <>
              <rect
                x={x1 + 5}
                y={y - 7}
                width={20}
                height={14}
                rx={3}
                fill="var(--color-base-100)"
                stroke="var(--color-base-content)"
                strokeOpacity={0.4}
              />
              <text
                x={x1 + 15}
                y={y + 4}
                textAnchor="middle"
                fontSize={11}
                fontWeight={700}
                fill="var(--color-base-content)"
              >
                {conductor}
              </text>
            </>
          )}
        </g>
      ))}
      {layout.nodes
        .filter(({ shape }) => shape === "post")
        .map(({ node, box }) => (
          <g key={node.id}>
            <rect
              {...box}
              rx={5}
              fill={node.kind === "grid" ? "var(--color-base-100)" : "var(--color-secondary)"}
              stroke="var(--color-secondary)"
              strokeWidth={2}
            />
            {node.kind === "grid" && <PostHatch {...box} />}
          </g>
        ))}
    </svg>
  );
}

/** The grid's post is hatched, so that it is never taken for a board. */
function PostHatch({ x, y, width, height }: { x: number; y: number; width: number; height: number }) {
  const lines = Array.from({ length: Math.max(0, Math.floor(height / 10) - 1) }, (_, at) => y + 8 + at * 10);
  return (
    <>
      {lines.map((at) => (
        <line
          key={at}
          x1={x + 4}
          x2={x + width - 4}
          y1={at + 5}
          y2={at - 3}
          stroke="var(--color-secondary)"
          strokeWidth={2}
        />
      ))}
    </>
  );
}
