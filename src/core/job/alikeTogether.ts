import type { Finding } from "@/core/findings";
import type { Sentence } from "@/core/sentence";

/** The same thing on several inputs of one meter is said once: "Inputs 1, 2, 3 of Grid meter". */
export function alikeTogether(findings: readonly Finding[]): readonly Finding[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const { subject } = finding;
    const without = (sentence: Sentence) => ofInputs(sentence, subject, []);
    const key =
      subject.kind === "input"
        ? JSON.stringify([finding.code, subject.meter, without(finding.cure), without(finding.detail)])
        : finding.id;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()].map((alike) => {
    const [first] = alike;
    const numbers = alike.flatMap(({ subject }) => (subject.kind === "input" ? [subject.input] : []));
    const together = (sentence: Sentence) => ofInputs(sentence, first!.subject, numbers);
    return alike.length === 1 ? first! : { ...first!, detail: together(first!.detail), cure: together(first!.cure) };
  });
}

/** A sentence about one input as one about several: its "input 1" becomes "inputs 1, 2, 3". */
function ofInputs(sentence: Sentence, subject: Finding["subject"], numbers: readonly number[]): Sentence {
  if (typeof sentence === "string" || subject.kind !== "input") return sentence;
  const isNumber = (at: number) => {
    const [before, part, after] = [sentence[at - 1], sentence[at], sentence[at + 1]];
    const isOwn = typeof part === "object" && part.figure === String(subject.input);
    return isOwn && typeof before === "string" && /[Ii]nput $/.test(before) && String(after).startsWith(" of");
  };
  return sentence.map((part, at) => {
    if (isNumber(at)) return numbers.join(", ");
    return typeof part === "string" && isNumber(at + 1) ? part.replace(/nput $/, "nputs ") : part;
  });
}
