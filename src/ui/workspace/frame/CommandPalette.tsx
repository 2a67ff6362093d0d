"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { useCallback, useState } from "react";
import { colourSchemeSchema, COLOUR_SCHEMES } from "@/core/site/conductorColours";
import type { NumberStyle } from "@/core/numberStyle";
import { chooseNumberStyle, useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import { switchTheme } from "@/ui/parts/browser/ThemeSwitch";
import { ShortcutSheet } from "@/ui/workspace/frame/ShortcutSheet";
import { STAGES } from "@/core/stages";
import { useShortcuts } from "@/ui/workspace/frame/useShortcuts";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";

interface Entry {
  readonly name: string;
  readonly keys?: string;
  readonly run: () => void;
}

interface CommandGroup {
  readonly heading: string;
  readonly entries: readonly Entry[];
}

/** Everything that can be done from anywhere in a job, found by typing a few letters of it. */
export function CommandPalette({ onFindings }: { onFindings: () => void }) {
  const editor = useEditor();
  const job = useJob();
  const router = useRouter();
  const style = useNumberStyle();
  const [shown, setShown] = useState<"palette" | "shortcuts" | undefined>();
  const onPalette = useCallback(() => setShown((before) => (before === "palette" ? undefined : "palette")), []);
  const onShortcuts = useCallback(() => setShown((before) => (before === "shortcuts" ? undefined : "shortcuts")), []);
  useShortcuts(editor, job.id, { onPalette, onShortcuts });

  const { site, job: details } = job.document;
  const write = (part: Partial<NumberStyle>) => chooseNumberStyle({ ...style, ...part });
  const groups: readonly CommandGroup[] = [
    {
      heading: "Go to",
      entries: [
        ...STAGES.map(({ id, name, key }) => ({
          name,
          keys: `g ${key}`,
          run: () => router.push(`/jobs/${job.id}/${id}`),
        })),
        { name: "Jobs", run: () => router.push("/jobs") },
        { name: "Kits", run: () => router.push("/kits") },
      ],
    },
    {
      heading: "Do",
      entries: [
        ...(job.canUndo ? [{ name: "Undo", keys: "Ctrl Z", run: () => editor.undo() }] : []),
        ...(job.canRedo ? [{ name: "Redo", keys: "Ctrl Shift Z", run: () => editor.redo() }] : []),
        { name: "Show or hide the findings", run: onFindings },
        { name: "Light or dark", run: switchTheme },
        { name: "Shortcuts", keys: "?", run: () => setShown("shortcuts") },
        { name: "Export the job", run: () => window.open(`/api/v1/jobs/${job.id}/export`, "_self") },
        { name: "Labels as PDF", run: () => window.open(`/api/v1/jobs/${job.id}/labels.pdf`, "_blank", "noreferrer") },
      ],
    },
    {
      heading: "Find in the plan",
      entries: [
        ...site.nodes
          .filter((node) => node.kind !== "grid")
          .map((node) => ({
            name: node.name,
            run: () => router.push(`/jobs/${job.id}/plan?device=${encodeURIComponent(node.id)}`),
          })),
        ...site.meters.flatMap((meter) =>
          meter.inputs.map((input) => ({
            name: `${meter.name}, input ${input.n}`,
            run: () => router.push(`/jobs/${job.id}/plan?meter=${encodeURIComponent(meter.id)}&input=${input.n}`),
          })),
        ),
      ],
    },
    {
      heading: "Conductor colours",
      entries: colourSchemeSchema.options.map((scheme) => ({
        name: `Colours: ${COLOUR_SCHEMES[scheme].name}${scheme === details.colourScheme ? " (now)" : ""}`,
        run: () => editor.edit((document) => ({ ...document, job: { ...document.job, colourScheme: scheme } })),
      })),
    },
    {
      heading: "Numbers",
      entries: [
        {
          name: `Decimal point: 1.5${style.decimal === "point" ? " (now)" : ""}`,
          run: () => write({ decimal: "point" }),
        },
        {
          name: `Decimal comma: 1,5${style.decimal === "comma" ? " (now)" : ""}`,
          run: () => write({ decimal: "comma" }),
        },
        {
          name: `Metres and mm²${style.lengths === "metric" ? " (now)" : ""}`,
          run: () => write({ lengths: "metric" }),
        },
        {
          name: `Feet, with AWG beside mm²${style.lengths === "us" ? " (now)" : ""}`,
          run: () => write({ lengths: "us" }),
        },
      ],
    },
  ];

  return (
    <>
      <PaletteDialog shown={shown} setShown={setShown} groups={groups} />
      <ShortcutSheet open={shown === "shortcuts"} onClose={() => setShown(undefined)} />
    </>
  );
}

function PaletteDialog({
  shown,
  setShown,
  groups,
}: {
  shown: "palette" | "shortcuts" | undefined;
  setShown: (next: "palette" | "shortcuts" | undefined) => void;
  groups: readonly CommandGroup[];
}) {
  return (
    <Command.Dialog
      open={shown === "palette"}
      onOpenChange={(open) => setShown(open ? "palette" : undefined)}
      label="Commands"
      className="palette"
      overlayClassName="palette-ground"
      contentClassName="palette-box"
    >
      <Command.Input placeholder="What do you want to do?" className="field" />
      <Command.List className="palette-list">
        <Command.Empty className="p-3">
          Nothing is called that. Try a device, a stage, or what you want to do.
        </Command.Empty>
        {groups.map(({ heading, entries }) => (
          <Command.Group key={heading} heading={heading}>
            {entries.map(({ name, keys, run }, at) => (
              <Command.Item
                key={`${name} ${at}`}
                value={`${heading} ${name} ${at}`}
                className="palette-item"
                onSelect={() => {
                  setShown(undefined);
                  run();
                }}
              >
                <span className="min-w-0 flex-1 truncate">{name}</span>
                {keys && <kbd className="kbd kbd-sm">{keys}</kbd>}
              </Command.Item>
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
