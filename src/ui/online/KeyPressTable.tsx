"use client";

import { ArrowDown, ArrowUp, Check } from "lucide-react";
import type { KitOnline } from "@/core/kits/onlineKitSchema";
import { keyPresses, type KeyPress } from "@/core/online/passphrase/keyPresses";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

interface Props {
  readonly passphrase: string;
  readonly keys: NonNullable<KitOnline["keys"]>;
}

/** How a passphrase is entered by the up and down keys of a device, the shorter way round, with its sum. */
export function KeyPressTable({ passphrase, keys: { order, startsAt } }: Props) {
  const told = keyPresses(passphrase, order, startsAt);
  if (told.kind === "not-there")
    return (
      <p className="caution font-semibold">
        {ONLINE_WORDS.theKeysOfThisDeviceHaveNoAnother(told.characters.map((own) => `“${own}”`).join(", "))}
      </p>
    );
  const total = told.keys.at(-1)?.total ?? 0;
  return (
    <details open>
      <summary className="press cursor-pointer font-semibold">{ONLINE_WORDS.byItsKeysPresses(total)}</summary>
      <p className="quiet text-sm">
        {ONLINE_WORDS.eachPlaceBeginsAtAfterTheLast(
          startsAt === "first" ? `“${order[0]}”` : ONLINE_WORDS.theCharacterBeforeIt,
        )}
      </p>
      <ol
        aria-label={ONLINE_WORDS.pressesCharacterByCharacter}
        className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(10rem,1fr))] gap-1"
      >
        {told.keys.map((key, at) => (
          <li key={at} className="flex items-center gap-2 rounded border border-base-300 px-2 py-1 text-sm">
            <span className="reading w-5 text-lg font-bold">{key.character === " " ? "␣" : key.character}</span>
            <Presses of={key} />
            <span className="quiet reading ml-auto">{key.total}</span>
          </li>
        ))}
      </ol>
    </details>
  );
}

function Presses({ of: { direction, presses } }: { of: KeyPress }) {
  const Icon = direction === "up" ? ArrowUp : direction === "down" ? ArrowDown : Check;
  return (
    <span className="flex items-center gap-1">
      <Icon size={16} aria-hidden />
      {direction === "none" ? ONLINE_WORDS.isThere : `${direction} ${presses}`}
    </span>
  );
}
