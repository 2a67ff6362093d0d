import { counted } from "@/core/words";
import type { ItemWords } from "@/core/handover/words/itemWords";

/** A hand over in German. */
export const ITEM_GERMAN: ItemWords = {
  verdicts: {
    "as-planned": "nach den Messwerten ist alles wie geplant",
    "faults-found": "die Messwerte zeigen einen Fehler im Anschluss",
    ambiguous: "die Messwerte lassen mehr als eine Erklärung zu",
    "not-explained": "nichts erklärt die Messwerte",
    "reading-doubtful": "ein Messwert ist zweifelhaft",
  },
  limitVerdicts: {
    holds: "ein Sprungversuch vor Ort hat sie eingehalten",
    "too-long": "der letzte Sprungversuch lag zu lange darüber",
    "too-high": "der letzte Sprungversuch blieb darüber stehen",
    hunts: "der letzte Sprungversuch kam nicht zur Ruhe",
    untested: "der letzte Sprungversuch kam nie in ihre Nähe",
  },
  fallbackVerdicts: {
    "falls-back": "ohne Zähler gingen die Wechselrichter rechtzeitig zurück",
    late: "ohne Zähler gingen die Wechselrichter zu spät zurück",
    stays: "ohne Zähler liefen die Wechselrichter weiter",
    untested: "beim letzten Versuch gab es nichts zurückzunehmen",
  },
  needs: {
    serial: "Seriennummer",
    "installed-on": "Tag der Installation",
    photo: "Foto",
    consent: "Einwilligung des Eigentümers",
    "owner-contact": "Kontakt des Eigentümers",
    "limit-proof": "Nachweis der Einspeisegrenze",
  },
  nothingRead: "es wurde noch nichts abgelesen",
  beingWeighed: "die Messwerte werden noch ausgewertet",
  simulated: (count, all) =>
    `simuliert, ${count} von ${counted(all, "Schritt", "Schritten")}: das beweist nichts über die Anlage`,
  beforeCopy: (count, all) =>
    `älter als diese Kopie, ${count} von ${counted(all, "Messwert", "Messwerten")}: hier noch einmal ablesen`,
  readSo: (verdict, readings, steps) =>
    `${verdict}; ${counted(readings, "Messwert", "Messwerte")} in ${counted(steps, "Schritt", "Schritten")}`,
  everyReading: (isProved) => (isProved ? "Jeder Messwert ist nachgewiesen" : "Nicht jeder Messwert ist nachgewiesen"),
  limit: (powerW, isProved) => `Die Einspeisegrenze von ${powerW} W ist ${isProved ? "" : "nicht "}nachgewiesen`,
  noStepTest: "vor Ort wurde kein Sprungversuch zu dieser Grenze aufgezeichnet",
  stillToProve: (phases) => `noch nachzuweisen: ${listed(phases)}`,
  fallback: (isProved) =>
    isProved
      ? "Die Wechselrichter gehen ohne ihren Zähler zurück"
      : "Nicht nachgewiesen: die Wechselrichter gehen ohne ihren Zähler zurück",
  meterNotTaken: "der Zähler wurde noch nicht abgezogen",
  ownerSees: (device, isSeen) =>
    isSeen ? `Der Eigentümer sieht ${device}` : `Der Eigentümer sieht ${device} noch nicht`,
  ownPhone: (isSeen) =>
    isSeen ? "sein eigenes Telefon zeigte die Werte" : "sein eigenes Telefon hat die Werte noch nicht gezeigt",
  daysLeft: (days) => {
    const count = counted(Math.abs(days), "Tag", "Tage");
    return days < 0 ? `${count} zu spät` : days === 0 ? "heute" : `noch ${count}`;
  },
  lostWhenLate: (lost) => `bei Verspätung geht verloren: ${lost}`,
  registered: "angemeldet und bestätigt",
  sent: "abgeschickt; die Bestätigung fehlt noch",
  stillNeeds: (needs) => `es fehlt noch: ${listed(needs)}`,
  sendIt: (until) => `alles dafür ist da: abschicken${until === undefined ? "" : ` bis ${until}`}`,
  wasDue: (on) => `war fällig am ${on}`,
  stopped: "angehalten: etwas liegt außerhalb seiner Grenzen",
  everyStep: "Jeder Schritt ist erledigt",
  byLog: "nach dem Protokoll",
  openSteps: (count) => (count === 1 ? "Ein Schritt ist offen" : `${count} Schritte sind offen`),
  more: (count) => `und ${count} weitere`,
  skipped: (step) => `Ausgelassen: ${step}`,
  state: (missing) => (missing === 0 ? "fertig" : `${missing} offen`),
};

function listed(parts: readonly string[]): string {
  return new Intl.ListFormat("de").format(parts);
}
