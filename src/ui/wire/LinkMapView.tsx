"use client";

import "@xyflow/react/dist/style.css";
import { Background, Handle, Position, ReactFlow, type Edge, type Node, type NodeProps } from "@xyflow/react";
import { useMemo, type CSSProperties } from "react";
import { DEVICE_PX, linkMap, type MapEdge, type LinkMap } from "@/core/links/linkMap";
import type { LinkKind } from "@/core/plan/linkSchema";
import { lengthText, type NumberStyle } from "@/core/numberStyle";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

/** How each kind of link is drawn: what has a cable is solid, what has none is broken. */
const DASHES: Readonly<Partial<Record<LinkKind, string>>> = {
  can: "8 5",
  wifi: "2 6",
  radio: "2 6",
  "power-line": "12 4 2 4",
  bank: "16 3",
  usb: "1 3",
  "dry-contact": "14 4",
};

/** As they stand on a socket, short enough for a line. */
const SHORT_WORDS: Readonly<Record<LinkKind, string>> = {
  rs485: "RS-485",
  can: "CAN",
  ethernet: "LAN",
  wifi: "Wi-Fi",
  radio: WIRE_WORDS.radio,
  "power-line": WIRE_WORDS.powerLine,
  bank: WIRE_WORDS.batteryBank,
  "dry-contact": WIRE_WORDS.contacts,
  usb: WIRE_WORDS.plug,
  cellular: WIRE_WORDS.cellular,
};

type DeviceNode = Node<{ name: string; kit: string }, "device">;
type PlaceNode = Node<{ name: string }, "place">;

const [LEAST_HIGH_PX, MOST_HIGH_PX] = [320, 720];
const READABLE_ZOOM = 0.8;
const MARGIN_PX = 32;
const SIDES = [Position.Left, Position.Right, Position.Top, Position.Bottom];
const NODE_TYPES = { device: DeviceBox, place: PlaceBox };

/** Devices at their places with the cables between them, laid out by the program. */
export function LinkMapView({ wire: { plan } }: { wire: WireDesk }) {
  const style = useNumberStyle();
  const map = useMemo(() => linkMap(plan), [plan]);
  const nodes = useMemo(() => mapNodes(map), [map]);
  const edges = useMemo(() => map.edges.map((edge) => mapEdge(edge, style)), [map, style]);
  if (plan.links.length === 0) return null;
  return (
    <div
      className="h-[min(var(--map-height),80dvh)] rounded-md border border-base-300 bg-base-100 max-md:h-80"
      style={{ "--map-height": `${heightPx(map)}px` } as CSSProperties} // React knows no own properties
      role="group"
      aria-label={WIRE_WORDS.mapOfTheLinks}
    >
      <ReactFlow
        nodes={nodes}
        edges={edges}
        nodeTypes={NODE_TYPES}
        fitView
        fitViewOptions={{ maxZoom: 1.1, minZoom: 0.55, padding: 0.04 }}
        minZoom={0.2}
        nodesDraggable={false}
        nodesConnectable={false}
        nodesFocusable={false}
        edgesFocusable={false}
        elementsSelectable={false}
        zoomOnScroll={false}
        preventScrolling={false}
        proOptions={{ hideAttribution: true }}
      >
        <Background color="var(--color-base-300)" />
      </ReactFlow>
    </div>
  );
}

/** High enough to read the place with most devices at once, and no higher. */
function heightPx({ places }: LinkMap): number {
  const tallest = Math.max(0, ...places.map((place) => place.height));
  return Math.round(Math.min(MOST_HIGH_PX, Math.max(LEAST_HIGH_PX, READABLE_ZOOM * tallest + MARGIN_PX)));
}

function mapNodes({ places, nodes }: LinkMap): (DeviceNode | PlaceNode)[] {
  return [
    ...places.map((place): PlaceNode => ({
      id: `place ${place.id}`,
      type: "place",
      position: { x: place.x, y: 0 },
      data: { name: place.name },
      width: place.width,
      height: place.height,
      selectable: false,
      focusable: false,
      zIndex: -1,
    })),
    ...nodes.map((node): DeviceNode => ({
      id: node.id,
      type: "device",
      position: { x: node.x, y: node.y },
      data: { name: node.name, kit: node.kit },
      ...DEVICE_PX,
    })),
  ];
}

function mapEdge(edge: MapEdge, style: NumberStyle): Edge {
  const word = SHORT_WORDS[edge.kind];
  return {
    id: edge.id,
    source: edge.from,
    target: edge.to,
    sourceHandle: `out ${edge.leaves}`,
    targetHandle: `in ${edge.enters}`,
    type: "smoothstep",
    focusable: false,
    // Past a device of the same place the line keeps close, and its length goes without saying.
    ...(isBeside(edge) ? { pathOptions: { offset: 30 } } : {}),
    label: edge.hasCable && !isBeside(edge) ? `${word} ${cableText(edge, style)}` : word,
    style: { stroke: "var(--color-base-content)", strokeWidth: 3, strokeDasharray: DASHES[edge.kind] },
    labelStyle: { fill: "var(--color-base-content)", fontSize: 13 },
    labelBgStyle: { fill: "var(--color-base-100)" },
  };
}

/** A line within one place that goes round what is between. */
function isBeside({ leaves, enters }: MapEdge): boolean {
  return leaves === "right" && enters === "right";
}

function DeviceBox({ data }: NodeProps<DeviceNode>) {
  return (
    <div
      className={
        "flex h-full flex-col justify-center rounded-md border-2 border-secondary bg-base-200 " + "px-2 leading-tight"
      }
    >
      <b className="truncate">{data.name}</b>
      <span className="quiet truncate text-xs">{data.kit}</span>
      {SIDES.map((side) => (
        <Handle key={`in ${side}`} id={`in ${side}`} type="target" position={side} className="!bg-secondary" />
      ))}
      {SIDES.map((side) => (
        <Handle key={`out ${side}`} id={`out ${side}`} type="source" position={side} className="!bg-secondary" />
      ))}
    </div>
  );
}

function PlaceBox({ data }: NodeProps<PlaceNode>) {
  return (
    <div className="h-full rounded-md border border-dashed border-base-content p-2 text-sm font-bold">{data.name}</div>
  );
}

function cableText({ distanceM }: MapEdge, style: NumberStyle): string {
  return distanceM === undefined ? WIRE_WORDS.noCable : lengthText(distanceM, style);
}
