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
import { useKitDraft } from "@/ui/kits/useKitDraft";
import { sendApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { ProblemList } from "@/ui/parts/show/ProblemList";

const EXTENSIONS = [
  yaml(),
  EditorView.lineWrapping,
  EditorView.contentAttributes.of({ "aria-label": "Kit file" }),
  lintGutter(),
  linter((view) =>
    problemsOf(view.state.doc.toString()).map((found): Diagnostic => {
      const line = view.state.doc.line(Math.min(found.line, view.state.doc.lines));
      return { from: line.from, to: line.to, severity: "error", message: problemText(found) };
    }),
  ),
];

/**
 * A kit's file as text, checked as it is typed: every problem at its line. What is typed is kept in this browser until
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
  const problems = useMemo(() => problemsOf(draft.text), [draft.text]);

  const save = async () => {
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
        title={replaces ? name : `Copy of ${name}`}
        isGood={problems.length === 0}
        onStartAgain={startAgain}
        onSave={() => void save()}
      />
      {problem && <ProblemList problem={problem} />}
      <div className="flex min-h-0 flex-1 gap-4 max-md:flex-col">
        <KitText text={draft.text} onType={draft.type} />
        <KitProblems problems={problems} />
      </div>
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
        <Link href="/kits" className="link quiet text-sm">
          Kits
        </Link>
        <h1 className="text-2xl font-bold leading-tight">{title}</h1>
      </div>
      <button type="button" className="btn press" onClick={onStartAgain}>
        Back to the start
      </button>
      <button type="button" className="btn btn-primary press" disabled={!isGood} onClick={onSave}>
        Save the kit
      </button>
    </header>
  );
}

function KitProblems({ problems }: { problems: readonly LineProblem[] }) {
  return (
    <aside aria-label="Problems" className="overflow-auto md:w-80 md:flex-none">
      <h2 className="font-bold">
        {problems.length === 0
          ? "The file is good"
          : problems.length === 1
            ? "One problem"
            : `${problems.length} problems`}
      </h2>
      <ul role="status" className="space-y-2 text-sm">
        {problems.map((found, at) => (
          <li key={at}>
            <b>Line {found.line}</b> {problemText(found)}
          </li>
        ))}
      </ul>
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
