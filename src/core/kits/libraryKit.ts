import type { Kit } from "@/core/kits/kitSchema";

/** A kit of the library: shipped with the program as a file, or brought in by a user. */
export interface LibraryKit {
  readonly kit: Kit;
  /** As it stands in its file. */
  readonly text: string;
  readonly origin: "shipped" | "own";
  /** Of one's own: which of its texts this is, so that nothing newer is written over. */
  readonly revision?: number;
}
