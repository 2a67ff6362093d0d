"use client";

import { X } from "lucide-react";
import { useEffect, useRef } from "react";
import { STAGES } from "@/core/stages";

const EVERYWHERE = [
  ["Ctrl K", "commands: find a device, a stage, a setting"],
  ["?", "this sheet"],
  ...STAGES.map(({ name, key }) => [`g ${key}`, `go to ${name}`]),
  ["Ctrl Z", "undo"],
  ["Ctrl Shift Z", "redo"],
];

const ON_A_CLIP = [
  ["← →", "along the run, toward grid or loads"],
  ["↑ ↓", "to the next conductor"],
  ["F", "turn the clamp round"],
  ["S", "swap its leads"],
  ["1 … 9", "plug it into that input"],
  ["Del", "take it off"],
  ["Esc", "put it down"],
];

/** Every key that does something, as a sheet. */
export function ShortcutSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (open) dialog.current?.showModal();
    else dialog.current?.close();
  }, [open]);
  return (
    <dialog ref={dialog} className="modal" aria-label="Shortcuts" onClose={onClose}>
      <div className="modal-box max-w-2xl">
        <div className="flex items-center justify-between">
          <h2 className="text-xl font-bold">Shortcuts</h2>
          <button type="button" className="btn btn-ghost press px-2" onClick={onClose}>
            <X size={20} aria-hidden />
            <span className="sr-only">Close the shortcuts</span>
          </button>
        </div>
        <div className="mt-2 grid gap-x-8 sm:grid-cols-2">
          <Keys heading="Everywhere" keys={EVERYWHERE} />
          <Keys heading="On a clip in Place" keys={ON_A_CLIP} />
        </div>
      </div>
      <form method="dialog" className="modal-backdrop">
        <button type="submit">Close</button>
      </form>
    </dialog>
  );
}

function Keys({ heading, keys }: { heading: string; keys: readonly (readonly string[])[] }) {
  return (
    <section>
      <h3 className="font-bold">{heading}</h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4">
        {keys.map(([key, does]) => (
          <div key={key} className="contents">
            <dt className="py-1">
              <kbd className="kbd">{key}</kbd>
            </dt>
            <dd className="self-center">{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
