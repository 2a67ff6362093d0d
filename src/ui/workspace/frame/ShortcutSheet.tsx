"use client";

import * as Dialog from "@radix-ui/react-dialog";
import { X } from "lucide-react";
import { STAGES } from "@/core/stages";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

const EVERYWHERE = [
  ["Ctrl K", WORKSPACE_WORDS.commandsFindADeviceAStageASetting],
  ["?", WORKSPACE_WORDS.thisSheet],
  ...STAGES.map(({ name, key }) => [`g ${key}`, WORKSPACE_WORDS.goToOf(name)]),
  ["Ctrl Z", WORKSPACE_WORDS.undoLower],
  ["Ctrl Shift Z", WORKSPACE_WORDS.redoLower],
];

const ON_A_CLIP = [
  ["← → ↑ ↓", WORKSPACE_WORDS.lookFromCtToCt],
  ["Enter", WORKSPACE_WORDS.pickItUpOnceMorePutItDown],
  ["← →", WORKSPACE_WORDS.inTheHandAlongTheCircuitTowardGrid],
  ["↑ ↓", WORKSPACE_WORDS.inTheHandToTheNextConductor],
  ["F", WORKSPACE_WORDS.turnTheCtRound],
  ["S", WORKSPACE_WORDS.swapItsLeads],
  ["1 … 9", WORKSPACE_WORDS.plugItIntoThatInput],
  ["Del", WORKSPACE_WORDS.takeItOff],
  ["Esc", WORKSPACE_WORDS.putItBackWhereItWasFromAnywhere],
];

/** Every key that does something, as a sheet. */
export function ShortcutSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="palette-ground" />
        <Dialog.Content className="palette-box max-h-[85dvh] overflow-auto" aria-describedby={undefined}>
          <div className="flex items-center justify-between">
            <Dialog.Title className="text-xl font-bold">{WORKSPACE_WORDS.shortcuts}</Dialog.Title>
            <Dialog.Close className="btn btn-ghost press px-2">
              <X size={20} aria-hidden />
              <span className="sr-only">{WORKSPACE_WORDS.closeTheShortcuts}</span>
            </Dialog.Close>
          </div>
          <div className="mt-2 grid gap-x-8 sm:grid-cols-2">
            <Keys heading={WORKSPACE_WORDS.everywhere} keys={EVERYWHERE} />
            <Keys heading={WORKSPACE_WORDS.onACtInPlace} keys={ON_A_CLIP} />
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
