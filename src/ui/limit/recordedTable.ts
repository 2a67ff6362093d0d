/** Readings over time as rows of texts, from a file, typed or read live. */
export interface RecordedTable {
  readonly columns: readonly string[];
  readonly rows: readonly Readonly<Record<string, string>>[];
}
