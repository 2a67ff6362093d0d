/** The stages that there are, in the order of work, each with the letter that goes there after `g`. */
export const STAGES = [
  { id: "plan", name: "Plan", key: "n" },
  { id: "place", name: "Place", key: "l" },
  { id: "wire", name: "Wire", key: "w" },
  { id: "run", name: "Run", key: "r" },
  { id: "prove", name: "Prove", key: "p" },
  { id: "limit", name: "Limit", key: "i" },
  { id: "divert", name: "Divert", key: "d" },
] as const;
