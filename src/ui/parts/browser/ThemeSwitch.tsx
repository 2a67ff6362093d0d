"use client";

import { Monitor, Moon, Sun } from "lucide-react";
import { useSyncExternalStore } from "react";
import { chooseTheme, chosenTheme, type Theme } from "@/ui/parts/browser/theme";
import { PARTS_WORDS } from "@/ui/words/partsWords";

const NEXT: Readonly<Record<Theme, Theme>> = { system: "paper", paper: "plant-room", "plant-room": "system" };
const LOOK = {
  system: { Icon: Monitor, words: PARTS_WORDS.asTheSystem },
  paper: { Icon: Sun, words: PARTS_WORDS.light },
  "plant-room": { Icon: Moon, words: PARTS_WORDS.dark },
} as const;

const listeners = new Set<() => void>();

/** One button through the three looks: as the system, light, dark. */
export function ThemeSwitch() {
  const theme = useSyncExternalStore(subscribe, chosenTheme, (): Theme => "system");
  const { Icon, words } = LOOK[theme];
  return (
    <button
      type="button"
      className="btn btn-ghost press px-3"
      title={PARTS_WORDS.lookPressFor(words, LOOK[NEXT[theme]].words)}
      onClick={switchTheme}
    >
      <Icon size={20} aria-hidden />
      <span className="sr-only">{PARTS_WORDS.look(words)}</span>
    </button>
  );
}

/** On to the next of the three looks. */
export function switchTheme(): void {
  chooseTheme(NEXT[chosenTheme()]);
  listeners.forEach((listener) => listener());
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
