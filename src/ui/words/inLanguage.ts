/** The languages that the app's own words are written in, each by its code (BCP 47). A new one is a line here. */
export const APP_LANGUAGES = ["en"] as const;

/** A language of the app. */
export type AppLanguage = (typeof APP_LANGUAGES)[number];

/**
 * The language of this installation: chosen when the app is built, so that server and browser say the same from the
 * first line on. English where nothing, or nothing known, is chosen.
 */
export const APP_LANGUAGE: AppLanguage =
  APP_LANGUAGES.find((language) => language === process.env.NEXT_PUBLIC_GORMIT_LANGUAGE) ?? "en";

/**
 * The words of one part of the app in the language of this installation. Every language of the list has the same words,
 * each with the same values: the compiler names what a new one has not said yet.
 *
 * @example inLanguage({ en: { stop: "Stop" } }).stop // "Stop"
 */
export function inLanguage<Words>(written: Readonly<Record<AppLanguage, Words>>): Words {
  return written[APP_LANGUAGE];
}
