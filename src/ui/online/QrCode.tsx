"use client";

import QRCode from "qrcode";
import { useMemo } from "react";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

const QUIET_MODULES = 4;

/** A code that a phone's camera joins by, drawn dark on white in both themes, or no camera reads it. */
export function QrCode({ text, name, caption }: { text: string; name: string; caption?: string }) {
  const { size, path } = useMemo(() => drawn(text), [text]);
  const side = size + 2 * QUIET_MODULES;
  return (
    <figure className="w-56 max-w-full">
      <svg
        role="img"
        aria-label={caption === undefined ? ONLINE_WORDS.codeToJoin(name) : ONLINE_WORDS.codeOf(name)}
        viewBox={`${-QUIET_MODULES} ${-QUIET_MODULES} ${side} ${side}`}
        shapeRendering="crispEdges"
        className="w-full rounded"
      >
        <rect x={-QUIET_MODULES} y={-QUIET_MODULES} width={side} height={side} fill="#ffffff" />
        <path d={path} fill="#000000" />
      </svg>
      <figcaption className="quiet text-sm">{caption ?? ONLINE_WORDS.thePhonesCameraJoinsByThis(name)}</figcaption>
    </figure>
  );
}

function drawn(text: string): { readonly size: number; readonly path: string } {
  const { size, data } = QRCode.create(text, { errorCorrectionLevel: "M" }).modules;
  const path = Array.from(data, (dark, at) => (dark ? `M${at % size} ${Math.floor(at / size)}h1v1h-1z` : "")).join("");
  return { size, path };
}
