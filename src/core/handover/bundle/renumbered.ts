import type { VisitEntry } from "@/core/visit/visitEntry";

/**
 * A line of a log under other ids: its own, and those that it names. Where the first job stands beside the one that is
 * brought in, its ids are taken.
 *
 * For example: a correction names the line that it corrects by the line's new id.
 *
 * @param idOf The new id of an old one.
 */
export function renumbered(entry: VisitEntry, idOf: (id: string) => string): VisitEntry {
  const id = idOf(entry.id);
  switch (entry.kind) {
    case "photo":
      return { ...entry, id, photo: idOf(entry.photo) };
    case "correction":
      return { ...entry, id, corrects: idOf(entry.corrects) };
    case "start":
    case "result":
    case "skip":
    case "reopen":
    case "note":
      return { ...entry, id };
  }
}
