/** What can go wrong when a device is asked, apart from the library that told it. */
export type ReadTrouble =
  | { readonly kind: "no-answer"; readonly tries: number }
  | { readonly kind: "broken-answer" }
  | { readonly kind: "other-answered" }
  | { readonly kind: "refused"; readonly code: number; readonly register: number }
  | { readonly kind: "cut" };

/** How a device then counts. */
export type TroubleState = "silent" | "refuses" | "broken";

const REFUSALS: Readonly<Record<number, string>> = {
  1: "it does not know this kind of question",
  3: "it does not give so many registers at once",
  4: "it failed while it read the value",
  6: "it is busy",
  10: "the gateway has no way to it",
};

/** @example troubleState({ kind: "no-answer", tries: 3 }) // "silent" */
export function troubleState(trouble: ReadTrouble): TroubleState {
  switch (trouble.kind) {
    case "no-answer":
    case "cut":
      return "silent";
    case "broken-answer":
    case "other-answered":
      return "broken";
    case "refused":
      return trouble.code === 11 ? "silent" : "refuses";
  }
}

/**
 * What is wrong, and what to look at, in words.
 *
 * For example: no answer in 3 tries from 11: "No answer from address 11 in 3 tries: look at its supply …".
 */
export function troubleWords(trouble: ReadTrouble, unit: number): string {
  switch (trouble.kind) {
    case "no-answer":
      return (
        `No answer from address ${unit} in ${trouble.tries} ${trouble.tries === 1 ? "try" : "tries"}: look at its ` +
        "supply, its address and speed, and whether A and B are exchanged."
      );
    case "broken-answer":
      return (
        `What address ${unit} answers comes broken: noise, a missing terminator, another speed, or two devices ` +
        "that answer at once."
      );
    case "other-answered":
      return `Another address answered when ${unit} was asked: a second client asks on this line.`;
    case "refused":
      if (trouble.code === 2)
        return `Address ${unit} answers, but has no register ${trouble.register}: it is another kit or firmware.`;
      if (trouble.code === 11) return `The gateway hears nothing from address ${unit}.`;
      return `Address ${unit} refuses (code ${trouble.code}): ${REFUSALS[trouble.code] ?? "its manual says why"}.`;
    case "cut":
      return "The connection was cut; it is tried again.";
  }
}
