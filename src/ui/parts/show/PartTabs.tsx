"use client";

import type { LucideIcon } from "lucide-react";
import { useEffect, useRef } from "react";

export interface PartTab<P extends string> {
  readonly id: P;
  readonly name: string;
  readonly Icon: LucideIcon;
}

/** The parts of a stage; the first is shown where nothing is asked for. */
export type PartList<P extends string> = readonly [PartTab<P>, ...PartTab<P>[]];

interface Props<P extends string> {
  /** Names the tabs apart from those of other stages. */
  readonly prefix: string;
  readonly label: string;
  readonly parts: readonly PartTab<P>[];
  readonly shown: P;
  readonly onShow: (part: P) => void;
}

/** The parts of a stage, of which one is shown. Its panel is `<prefix>-part`. */
export function PartTabs<P extends string>({ prefix, label, parts, shown, onShow }: Props<P>) {
  const list = useRef<HTMLDivElement>(null);
  // On a phone the strip is wider than the screen. In braces: newer browsers answer a scroll with a promise, which is
  // no clean-up.
  useEffect(() => {
    void list.current?.querySelector("[aria-selected=true]")?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [shown]);
  return (
    <div
      ref={list}
      role="tablist"
      aria-label={label}
      className="flex flex-none overflow-x-auto border-b border-base-300 bg-base-200"
    >
      {parts.map(({ id, name, Icon }) => (
        <button
          key={id}
          type="button"
          role="tab"
          id={`${prefix}-${id}`}
          aria-selected={shown === id}
          aria-controls={`${prefix}-part`}
          className={`press flex flex-[1_0_auto] items-center justify-center gap-1.5 whitespace-nowrap px-2 text-sm md:max-w-44 ${shown === id ? "bg-base-100 font-bold shadow-[inset_0_-4px_0_var(--color-primary)]" : ""}`}
          onClick={() => onShow(id)}
        >
          <Icon size={17} aria-hidden />
          {name}
        </button>
      ))}
    </div>
  );
}
