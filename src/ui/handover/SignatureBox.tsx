"use client";

import { Eraser } from "lucide-react";
import { useEffect, useId, useRef } from "react";
import SignaturePad from "signature_pad";
import { SIGNATURE_BOX, SIGNER_WORDS, type Signature } from "@/core/handover/version/signature";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

interface Props {
  readonly role: Signature["role"];
  readonly name: string;
  readonly problem: string | undefined;
  readonly onName: (name: string) => void;
  /** With each stroke, all strokes until then; none after clearing. */
  readonly onStrokes: (strokes: Signature["strokes"]) => void;
}

/** A box to sign in with a pen, a finger or a mouse, and the name that stands under it. */
export function SignatureBox({ role, name, problem, onName, onStrokes }: Props) {
  const id = useId();
  const canvas = useRef<HTMLCanvasElement>(null);
  const clear = useSignaturePad(canvas, onStrokes);
  return (
    <fieldset className="min-w-0 space-y-1" aria-describedby={`${id}-problem`}>
      <legend className="font-bold">{HANDOVER_WORDS.optional(SIGNER_WORDS[role])}</legend>
      <label htmlFor={id} className="block text-sm font-semibold">
        {HANDOVER_WORDS.name}
      </label>
      <input
        id={id}
        name={`signer-${role}`}
        className="field"
        autoComplete="off"
        maxLength={60}
        value={name}
        onChange={(event) => onName(event.target.value)}
      />
      <canvas
        ref={canvas}
        aria-label={HANDOVER_WORDS.signsHere(SIGNER_WORDS[role])}
        className="aspect-[10/3] w-full touch-none rounded border-2 border-base-content/50 bg-white"
      />
      <button type="button" className="btn btn-ghost press" onClick={clear}>
        <Eraser size={18} aria-hidden />
        {HANDOVER_WORDS.signAgain}
      </button>
      <p id={`${id}-problem`} role={problem ? "alert" : undefined} className="text-sm font-semibold text-error">
        {problem}
      </p>
    </fieldset>
  );
}

/** Binds the pen to the canvas, at the canvas's own resolution. */
function useSignaturePad(canvas: React.RefObject<HTMLCanvasElement | null>, onStrokes: Props["onStrokes"]): () => void {
  const pad = useRef<SignaturePad | undefined>(undefined);
  const told = useRef(onStrokes);
  useEffect(() => {
    told.current = onStrokes;
  });
  useEffect(() => {
    const box = canvas.current;
    if (!box) return undefined;
    const own = new SignaturePad(box, { penColor: "#000000" });
    pad.current = own;
    const onEnd = () => told.current(strokesOf(own, box));
    own.addEventListener("endStroke", onEnd);
    // A turned phone has another width: what was drawn would be torn, so it is signed again.
    const watcher = new ResizeObserver(() => {
      const scale = window.devicePixelRatio;
      const width = Math.round(box.clientWidth * scale);
      if (box.width === width) return;
      box.width = width;
      box.height = Math.round(box.clientHeight * scale);
      box.getContext("2d")?.scale(scale, scale);
      own.clear();
      told.current([]);
    });
    watcher.observe(box);
    return () => {
      watcher.disconnect();
      own.off();
    };
  }, [canvas]);
  return () => {
    pad.current?.clear();
    onStrokes([]);
  };
}

function strokesOf(pad: SignaturePad, box: HTMLCanvasElement): Signature["strokes"] {
  const inside = (value: number, size: number, most: number) =>
    Math.min(most, Math.max(0, Math.round((value / size) * most)));
  return pad
    .toData()
    .map(({ points }) =>
      points.map(({ x, y }): [number, number] => [
        inside(x, box.clientWidth, SIGNATURE_BOX.width),
        inside(y, box.clientHeight, SIGNATURE_BOX.height),
      ]),
    );
}
