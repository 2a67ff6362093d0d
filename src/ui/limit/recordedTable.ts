/** Readings over time as rows of texts, from a file, typed or read live. */
export interface RecordedTable {
  readonly columns: readonly string[];
  /** Recorded on a bench: it proves nothing of the site. */
  readonly isOnBench?: boolean;
  /** Of its powers, where whoever made it knows. */
  readonly unit?: "W";
  readonly rows: readonly Readonly<Record<string, string>>[];
}
