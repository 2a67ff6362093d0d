"use client";

import { CloudOff } from "lucide-react";
import type { ComponentProps } from "react";
import { useConnected } from "@/ui/parts/browser/useConnected";
import { PARTS_WORDS } from "@/ui/words/partsWords";

/** A link to a file that the server makes; without a connection it says that it needs one. */
export function FromServer({ children, className = "btn press", ...link }: ComponentProps<"a">) {
  if (useConnected())
    return (
      <a className={className} {...link}>
        {children}
      </a>
    );
  return (
    <span className={`${className} btn-disabled h-auto flex-wrap`} role="link" aria-disabled="true" title={link.title}>
      {children}
      <span className="inline-flex items-center gap-1 text-xs font-normal">
        <CloudOff size={14} aria-hidden />
        {PARTS_WORDS.needsAConnection}
      </span>
    </span>
  );
}
