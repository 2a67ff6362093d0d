/** The stages that there are, in the order of work, each with the letter that goes there after `g`. */
export const STAGES = [
  { id: "plan", name: "Plan", key: "n" },
  { id: "place", name: "Place", key: "l" },
  { id: "wire", name: "Wire", key: "w" },
  { id: "prove", name: "Prove", key: "p" },
] as const;
