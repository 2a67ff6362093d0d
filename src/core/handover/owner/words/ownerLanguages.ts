import { OWNER_ENGLISH } from "@/core/handover/owner/words/ownerEnglish";
import { OWNER_GERMAN } from "@/core/handover/owner/words/ownerGerman";
import type { OwnerWords } from "@/core/handover/owner/words/ownerWords";

/** The languages that the owner's page is written in, each by its code (BCP 47). A new one is a line here. */
export const OWNER_LANGUAGES = {
  en: { name: "English", words: OWNER_ENGLISH },
  de: { name: "Deutsch", words: OWNER_GERMAN },
} as const satisfies Readonly<Record<string, { readonly name: string; readonly words: OwnerWords }>>;

/** A language that the owner's page is written in. */
export type OwnerLanguage = keyof typeof OWNER_LANGUAGES;

/** All of them. */
export const OWNER_LANGUAGE_IDS = Object.keys(OWNER_LANGUAGES) as [OwnerLanguage, ...OwnerLanguage[]];

/**
 * The first language that somebody reads and that is written; English where none is.
 *
 * @example ownerLanguage("fr-CH, de-AT;q=0.9, en;q=0.8") // "de"
 *
 * @param accepted As a browser says it (Accept-Language), in the order of preference.
 */
export function ownerLanguage(accepted: string): OwnerLanguage {
  const codes = accepted.split(",").map((part) => part.trim().slice(0, 2).toLowerCase());
  return codes.flatMap((code) => OWNER_LANGUAGE_IDS.find((id) => id === code) ?? [])[0] ?? "en";
}
