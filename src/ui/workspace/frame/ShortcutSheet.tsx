"use client";

import * as Dialog from "@radix-ui/react-dialog";
import { X } from "lucide-react";
import { STAGES } from "@/core/stages";

const EVERYWHERE = [
  ["Ctrl K", "commands: find a device, a stage, a setting"],
  ["?", "this sheet"],
  ...STAGES.map(({ name, key }) => [`g ${key}`, `go to ${name}`]),
  ["Ctrl Z", "undo"],
  ["Ctrl Shift Z", "redo"],
];

const ON_A_CLIP = [
  ["← → ↑ ↓", "look from CT to CT"],
  ["Enter", "pick it up; once more, put it down"],
  ["← →", "in the hand: along the circuit, toward grid or loads"],
  ["↑ ↓", "in the hand: to the next conductor"],
  ["F", "turn the CT round"],
  ["S", "swap its leads"],
  ["1 … 9", "plug it into that input"],
  ["Del", "take it off"],
  ["Esc", "put it back where it was, from anywhere"],
];

/** Every key that does something, as a sheet. */
export function ShortcutSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="palette-ground" />
        <Dialog.Content className="palette-box max-h-[85dvh] overflow-auto" aria-describedby={undefined}>
          <div className="flex items-center justify-between">
            <Dialog.Title className="text-xl font-bold">Shortcuts</Dialog.Title>
            <Dialog.Close className="btn btn-ghost press px-2">
              <X size={20} aria-hidden />
              <span className="sr-only">Close the shortcuts</span>
            </Dialog.Close>
          </div>
          <div className="mt-2 grid gap-x-8 sm:grid-cols-2">
            <Keys heading="Everywhere" keys={EVERYWHERE} />
            <Keys heading="On a CT in Place" keys={ON_A_CLIP} />
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
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
