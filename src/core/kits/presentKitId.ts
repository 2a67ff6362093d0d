/** Kits of the library that had another name before: in links of then. */
const FORMER: Readonly<Record<string, string>> = {
  "backup-box-63a": "backup-box-80a",
  "energy-manager-63a": "energy-manager-80a",
  "hybrid-split-9k6": "hybrid-split-9k",
};

/**
 * The id that a kit of the library has now.
 *
 * @example presentKitId("backup-box-63a") // "backup-box-80a"
 */
export function presentKitId(id: string): string {
  return Object.hasOwn(FORMER, id) ? FORMER[id]! : id;
}
