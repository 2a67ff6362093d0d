"use client";

import Link from "next/link";
import type { Kit } from "@/core/kits/kitSchema";
import { useLibrary } from "@/ui/workspace/workspaceContext";

/** A kit's name, leading to its page with every value and where it came from, as long as the library has it. */
export function KitLink({ kit }: { kit: Kit }) {
  const library = useLibrary();
  return library.some((known) => known.id === kit.id) ? (
    <Link className="link" href={`/kits/${kit.id}`}>
      {kit.name}
    </Link>
  ) : (
    <>{kit.name}</>
  );
}
