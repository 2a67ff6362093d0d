import { inLanguage } from "@/ui/words/inLanguage";

const ENGLISH = {
  breaker: "Breaker",
  codeThatHolds: (about: string) => `Code that holds: ${about}`,
  ferrule: (ferrule: string) => `ferrule ${ferrule}`,
  fromTo: (title: string, least: number, value: number, unit: string) => `${title}, from ${least} to ${value} ${unit}`,
  gormit: "Gormit",
  isolateAndProveDeadBeforeATerminal: (printed: string) =>
    `${printed}. Isolate and prove dead before a terminal cover is opened. Local rules, the maker's manual and a ` +
    "licensed electrician come first.",
  leads: "Leads",
  pin: (pin: number) => `  pin ${pin}`,
  setting: "Setting",
  sha256: (job: string, page: string, data: string, fingerprint: string, log: string, logHead: string) =>
    `${job}, ${page}. ${data}: sha256 ${fingerprint}. ${log}: ${logHead}`,
  signatureOf: (name: string) => `Signature of ${name}`,
  wiring: (job: string) => `Wiring, ${job}`,
  wiringOf: (job: string) => `Wiring of ${job}`,
};

/** What Print says, in one language; a second one has the same words. */
export type PrintWords = typeof ENGLISH;

/** What is said in Print, in the language of the app. */
export const PRINT_WORDS = inLanguage<PrintWords>({ en: ENGLISH });
