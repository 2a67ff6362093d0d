"use client";

import { yaml } from "@codemirror/lang-yaml";
import { linter, lintGutter, type Diagnostic } from "@codemirror/lint";
import CodeMirror, { EditorView } from "@uiw/react-codemirror";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { kitSchema } from "@/core/kits/kitSchema";
import { readYaml, type LineProblem } from "@/core/kits/readYaml";
import { pathText } from "@/core/problem";
import { savedKitSchema } from "@/core/answers/kitAnswers";
import { KitForm } from "@/ui/kits/KitForm";
import { useKitDraft, type KitDraft } from "@/ui/kits/useKitDraft";
import { sendApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { goToRed } from "@/ui/parts/form/redField";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { KITS_WORDS } from "@/ui/words/kitsWords";

const EXTENSIONS = [
  yaml(),
  EditorView.lineWrapping,
  EditorView.contentAttributes.of({ "aria-label": KITS_WORDS.kitFile }),
  lintGutter(),
  linter((view) =>
    problemsOf(view.state.doc.toString()).map((found): Diagnostic => {
      const line = view.state.doc.line(Math.min(found.line, view.state.doc.lines));
      return { from: line.from, to: line.to, severity: "error", message: problemText(found) };
    }),
  ),
];

/**
 * A kit as a form with units, and as the text of its file beside it, both of the same draft, checked as it is typed:
 * every problem at its field and its line. What is typed is kept in this browser until
 * it is saved.
 */
export function KitEditor({
  name,
  initial,
  replaces,
}: {
  name: string;
  initial: string;
  replaces: { readonly id: string; readonly revision: number } | undefined;
}) {
  const router = useRouter();
  const draft = useKitDraft(replaces?.id ?? name, initial, replaces?.revision ?? 0);
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [part, setPart] = useState<"form" | "text">("form");
  const problems = useMemo(() => problemsOf(draft.text), [draft.text]);

  const save = async () => {
    if (goToRed(document)) return;
    const answer = await sendApi(
      "POST",
      `/api/v1/kits${replaces ? `?replace=${replaces.id}&revision=${draft.madeFrom}` : ""}`,
      savedKitSchema,
      draft.text,
      "application/yaml",
    ).catch(() => undefined);
    if (answer?.kind !== "ok") {
      setProblem(answer ? answer.problem : UNREACHABLE);
      return;
    }
    draft.forget();
    router.push(`/kits/${answer.value.id}`);
    router.refresh();
  };

  const startAgain = () => {
    draft.forget();
    router.refresh();
  };

  return (
    <div className="mx-auto flex h-dvh max-w-7xl flex-col p-4">
      <KitEditorHeader
        title={replaces ? name : KITS_WORDS.copyOf(name)}
        isGood={problems.length === 0}
        onStartAgain={startAgain}
        onSave={() => void save()}
      />
      <main className="flex min-h-0 flex-1 flex-col">
        {problem && <ProblemList problem={problem} />}
        <PartSwitch shown={part} onShow={setPart} />
        <Parts draft={draft} problems={problems} part={part} />
      </main>
    </div>
  );
}

/** The form, and the text beside it; where both do not fit, the one that was chosen. */
function Parts({
  draft,
  problems,
  part,
}: {
  draft: KitDraft;
  problems: readonly LineProblem[];
  part: "form" | "text";
}) {
  return (
    <div className="flex min-h-0 flex-1 gap-4">
      <div className={`min-h-0 min-w-0 flex-1 overflow-auto ${part === "form" ? "" : "max-lg:hidden"}`}>
        <KitForm text={draft.text} problems={problems} onText={draft.type} />
      </div>
      <div className={`flex min-h-0 min-w-0 flex-1 flex-col gap-2 ${part === "text" ? "" : "max-lg:hidden"}`}>
        <KitProblems problems={problems} />
        <KitText text={draft.text} onType={draft.type} />
      </div>
    </div>
  );
}

/** Where both do not fit side by side: the form or the text of the file. */
function PartSwitch({ shown, onShow }: { shown: "form" | "text"; onShow: (part: "form" | "text") => void }) {
  const parts = [
    ["form", KITS_WORDS.form],
    ["text", KITS_WORDS.textOfTheFile],
  ] as const;
  return (
    <div className="flex gap-2 pb-2 lg:hidden">
      {parts.map(([part, words]) => (
        <button
          key={part}
          type="button"
          className={`btn press flex-1 ${shown === part ? "btn-neutral" : ""}`}
          aria-pressed={shown === part}
          onClick={() => onShow(part)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}

function KitText({ text, onType }: { text: string; onType: (text: string) => void }) {
  return (
    <div className="min-h-0 min-w-0 flex-1 rounded border border-base-300 bg-base-100">
      <CodeMirror
        value={text}
        onCreateEditor={(view) => {
          view.scrollDOM.tabIndex = 0;
        }}
        extensions={EXTENSIONS}
        height="100%"
        className="h-full"
        basicSetup={{ syntaxHighlighting: false, highlightActiveLine: false, highlightActiveLineGutter: false }}
        theme="none"
        onChange={onType}
      />
    </div>
  );
}

function KitEditorHeader({
  title,
  isGood,
  onStartAgain,
  onSave,
}: {
  title: string;
  isGood: boolean;
  onStartAgain: () => void;
  onSave: () => void;
}) {
  return (
    <header className="flex flex-wrap items-end gap-3 pb-3">
      <div className="mr-auto">
        <Link href="/kits" className="link quiet press inline-flex items-center text-sm">
          {KITS_WORDS.kits}
        </Link>
        <h1 className="text-2xl font-bold leading-tight">{title}</h1>
      </div>
      <button type="button" className="btn press" onClick={onStartAgain}>
        {KITS_WORDS.backToTheStart}
      </button>
      <button type="button" className="btn btn-primary press" disabled={!isGood} onClick={onSave}>
        {KITS_WORDS.saveTheKit}
      </button>
    </header>
  );
}

function KitProblems({ problems }: { problems: readonly LineProblem[] }) {
  return (
    <aside aria-label={KITS_WORDS.problems} className="max-h-40 flex-none overflow-auto">
      <div role="status">
        <h2 className="font-bold">
          {problems.length === 0
            ? KITS_WORDS.theFileIsGood
            : problems.length === 1
              ? KITS_WORDS.oneProblem
              : KITS_WORDS.problemsOf(problems.length)}
        </h2>
        <ul className="space-y-2 text-sm">
          {problems.map((found, at) => (
            <li key={at}>
              <b>{KITS_WORDS.line(found.line)}</b> {problemText(found)}
            </li>
          ))}
        </ul>
      </div>
    </aside>
  );
}

function problemsOf(text: string): readonly LineProblem[] {
  const outcome = readYaml(text, kitSchema);
  return outcome.kind === "ok" ? [] : outcome.problems;
}

function problemText({ path, message }: LineProblem): string {
  return path.length === 0 ? message : `${pathText(path)}: ${message}`;
}
