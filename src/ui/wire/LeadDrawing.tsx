import type { EthernetLead } from "@/core/links/network/ethernet";

const ROW = 48;
const WIDTH = 200;
/** The conductors' own colours, as made; the word stands beside each pin. */
const INSULATION: Readonly<Record<string, string>> = {
  orange: "#e8730c",
  green: "#2e8540",
  blue: "#2b6cc4",
  brown: "#7a4a21",
};

/**
 * The eight conductors of a lead from plug to plug, straight or across each other as the colours say; one without its
 * other end is a stub, an empty pin a bar.
 */
export function LeadDrawing({ lead: { endA, endB } }: { lead: EthernetLead }) {
  const height = ROW * endA.length;
  const yOf = (at: number) => ROW * (at + 0.5);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      preserveAspectRatio="none"
      className="w-full"
      style={{ height }}
      aria-hidden
    >
      {endA.map((colour, at) => {
        const to = colour === "open" ? -1 : endB.indexOf(colour);
        return to < 0 ? (
          <Stub key={at} colour={colour} x={0} y={yOf(at)} />
        ) : (
          <Conductor
            key={at}
            colour={colour}
            isMoved={to !== at}
            path={`M0 ${yOf(at)} C${WIDTH / 2} ${yOf(at)} ${WIDTH / 2} ${yOf(to)} ${WIDTH} ${yOf(to)}`}
          />
        );
      })}
      {endB.map(
        (colour, at) =>
          (colour === "open" || !endA.includes(colour)) && <Stub key={at} colour={colour} x={WIDTH - 14} y={yOf(at)} />,
      )}
    </svg>
  );
}

/** White ones carry a broken stripe of their pair's colour; one that comes out elsewhere is drawn thicker. */
function Conductor({ colour, path, isMoved }: { colour: string; path: string; isMoved: boolean }) {
  const isWhite = colour.startsWith("white-");
  const width = isMoved ? 9 : 6;
  const line = { d: path, fill: "none", vectorEffect: "non-scaling-stroke" as const };
  return (
    <g>
      <path {...line} stroke="var(--color-base-content)" strokeWidth={width + 2} />
      <path {...line} stroke={isWhite ? "#ffffff" : INSULATION[colour]} strokeWidth={width} />
      {isWhite && (
        <path
          {...line}
          stroke={INSULATION[colour.slice("white-".length)]}
          strokeWidth={width}
          strokeDasharray="10 10"
        />
      )}
    </g>
  );
}

function Stub({ colour, x, y }: { colour: string; x: number; y: number }) {
  return colour === "open" ? (
    <path
      d={`M${x + 7} ${y - 9} V${y + 9}`}
      stroke="var(--color-base-content)"
      strokeWidth={3}
      vectorEffect="non-scaling-stroke"
    />
  ) : (
    <Conductor colour={colour} isMoved={false} path={`M${x} ${y} H${x + 14}`} />
  );
}
