"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { useCallback, useState } from "react";
import { colourSchemeSchema, COLOUR_SCHEMES } from "@/core/site/conductorColours";
import type { PersonStyle } from "@/core/numberStyle";
import { choosePersonStyle, usePersonStyle } from "@/ui/parts/browser/useNumberStyle";
import { switchTheme } from "@/ui/parts/browser/ThemeSwitch";
import { ShortcutSheet } from "@/ui/workspace/frame/ShortcutSheet";
import { STAGES } from "@/core/stages";
import { goToStage } from "@/ui/workspace/frame/stageMoves";
import { useShortcuts } from "@/ui/workspace/frame/useShortcuts";
import type { EditorSnapshot, JobEditor } from "@/ui/workspace/safekeeping/jobEditor";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

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
  const style = usePersonStyle();
  const [shown, setShown] = useState<"palette" | "shortcuts" | undefined>();
  const onPalette = useCallback(() => setShown((before) => (before === "palette" ? undefined : "palette")), []);
  const onShortcuts = useCallback(() => setShown((before) => (before === "shortcuts" ? undefined : "shortcuts")), []);
  useShortcuts(editor, job.id, { onPalette, onShortcuts });

  const groups: readonly CommandGroup[] = [
    { heading: WORKSPACE_WORDS.goTo, entries: places(job.id, goToStage, (path) => router.push(path)) },
    {
      heading: WORKSPACE_WORDS.do,
      entries: deeds(editor, job, { onFindings, onShortcuts: () => setShown("shortcuts") }),
    },
    { heading: WORKSPACE_WORDS.findInThePlan, entries: thingsInPlan(job, goToStage) },
    { heading: WORKSPACE_WORDS.conductorColours, entries: colours(editor, job) },
    { heading: WORKSPACE_WORDS.numbers, entries: personStyles(style) },
  ];

  return (
    <>
      <PaletteDialog shown={shown} setShown={setShown} groups={groups} />
      <ShortcutSheet open={shown === "shortcuts"} onClose={() => setShown(undefined)} />
    </>
  );
}

type GoTo = (path: string) => void;

function places(jobId: string, toStage: GoTo, goTo: GoTo): readonly Entry[] {
  return [
    ...STAGES.map(({ id, name, key }) => ({ name, keys: `g ${key}`, run: () => toStage(`/jobs/${jobId}/${id}`) })),
    { name: WORKSPACE_WORDS.jobs, run: () => goTo("/jobs") },
    { name: WORKSPACE_WORDS.kits, run: () => goTo("/kits") },
  ];
}

function deeds(
  editor: JobEditor,
  { id, canUndo, canRedo }: EditorSnapshot,
  { onFindings, onShortcuts }: { onFindings: () => void; onShortcuts: () => void },
): readonly Entry[] {
  return [
    ...(canUndo ? [{ name: WORKSPACE_WORDS.undo, keys: "Ctrl Z", run: () => editor.undo() }] : []),
    ...(canRedo ? [{ name: WORKSPACE_WORDS.redo, keys: "Ctrl Shift Z", run: () => editor.redo() }] : []),
    { name: WORKSPACE_WORDS.showOrHideTheFindings, run: onFindings },
    { name: WORKSPACE_WORDS.lightOrDark, run: switchTheme },
    { name: WORKSPACE_WORDS.shortcuts, keys: "?", run: onShortcuts },
    { name: WORKSPACE_WORDS.exportTheJob, run: () => window.open(`/api/v1/jobs/${id}/export`, "_self") },
    {
      name: WORKSPACE_WORDS.labelsAsPdf,
      run: () => window.open(`/api/v1/jobs/${id}/labels.pdf`, "_blank", "noreferrer"),
    },
  ];
}

function thingsInPlan({ id, document: { site } }: EditorSnapshot, goTo: GoTo): readonly Entry[] {
  const base = `/jobs/${id}/plan`;
  return [
    ...site.nodes
      .filter((node) => node.kind !== "grid")
      .map((node) => ({ name: node.name, run: () => goTo(`${base}?device=${encodeURIComponent(node.id)}`) })),
    ...site.meters.flatMap((meter) =>
      meter.inputs.map((input) => ({
        name: WORKSPACE_WORDS.input(meter.name, input.n),
        run: () => goTo(`${base}?meter=${encodeURIComponent(meter.id)}&input=${input.n}`),
      })),
    ),
  ];
}

function colours(editor: JobEditor, { document: { job } }: EditorSnapshot): readonly Entry[] {
  return colourSchemeSchema.options.map((scheme) => ({
    name: WORKSPACE_WORDS.colours(COLOUR_SCHEMES[scheme].name, now(scheme === job.colourScheme)),
    run: () => editor.edit((document) => ({ ...document, job: { ...document.job, colourScheme: scheme } })),
  }));
}

function personStyles(style: PersonStyle): readonly Entry[] {
  const { decimal, dates } = style;
  const entry = (name: string, part: Partial<PersonStyle>, isNow: boolean) => ({
    name: name + now(isNow),
    run: () => choosePersonStyle({ ...style, ...part }),
  });
  return [
    entry(WORKSPACE_WORDS.decimalPoint15, { decimal: "point" }, decimal === "point"),
    entry(WORKSPACE_WORDS.decimalComma15, { decimal: "comma" }, decimal === "comma"),
    entry(WORKSPACE_WORDS.dayFirst24Hours28Nov1430, { dates: "day-first" }, dates === "day-first"),
    entry(WORKSPACE_WORDS.monthFirst12HoursNov28230Pm, { dates: "month-first" }, dates === "month-first"),
  ];
}

function now(isNow: boolean): string {
  return isNow ? " (now)" : "";
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
      label={WORKSPACE_WORDS.commands}
      className="palette"
      overlayClassName="palette-ground"
      contentClassName="palette-box"
    >
      <Command.Input placeholder={WORKSPACE_WORDS.whatDoYouWantToDo} className="field" />
      <Command.List className="palette-list">
        <Command.Empty className="p-3">{WORKSPACE_WORDS.nothingIsCalledThatTryADevice}</Command.Empty>
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
