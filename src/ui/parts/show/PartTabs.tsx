"use client";

import * as Tabs from "@radix-ui/react-tabs";
import type { LucideIcon } from "lucide-react";
import { useEffect, useRef, type ReactNode } from "react";

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
  readonly className: string;
  /** What stands between the tabs and the part. */
  readonly between?: ReactNode;
  readonly panelClassName: string;
  /** The part that is shown. */
  readonly children: ReactNode;
}

/** The parts of a stage, of which one is shown. Its panel is `<prefix>-part`. */
export function PartTabs<P extends string>(props: Props<P>) {
  const { prefix, label, parts, shown, onShow, className, between, panelClassName, children } = props;
  const list = useRef<HTMLDivElement>(null);
  // On a tablet the strip may be wider than the screen. In braces: newer browsers answer a scroll with a promise, which
  // is no clean-up.
  useEffect(() => {
    void list.current?.querySelector("[aria-selected=true]")?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [shown]);
  const show = (value: string) => {
    const part = parts.find(({ id }) => id === value);
    if (part) onShow(part.id);
  };
  return (
    <Tabs.Root value={shown} onValueChange={show} activationMode="manual" className={className}>
      <Tabs.List
        ref={list}
        aria-label={label}
        className="flex flex-none flex-wrap border-b border-base-300 bg-base-200 md:flex-nowrap md:overflow-x-auto"
      >
        {parts.map(({ id, name, Icon }) => (
          <Tabs.Trigger
            key={id}
            value={id}
            id={`${prefix}-${id}`}
            aria-controls={`${prefix}-part`}
            className={
              "press flex flex-[1_0_auto] items-center justify-center gap-1.5 whitespace-nowrap px-2 " +
              `text-sm md:max-w-44 ${shown === id ? SHOWN : ""}`
            }
          >
            <Icon size={17} aria-hidden className="max-md:hidden" />
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {between}
      <Tabs.Content
        value={shown}
        id={`${prefix}-part`}
        aria-labelledby={`${prefix}-${shown}`}
        className={`min-h-0 flex-1 overflow-auto ${panelClassName}`}
      >
        {children}
      </Tabs.Content>
    </Tabs.Root>
  );
}

const SHOWN = "bg-base-100 font-bold shadow-[inset_0_-4px_0_var(--color-primary)]";
