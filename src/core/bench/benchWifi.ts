/** The Wi-Fi of every bench, as it stands on the label of its router; with look-alikes, to practise on. */
export const BENCH_WIFI = { name: "Practice house", passphrase: "Lamp0 l1mit rn8" } as const;
