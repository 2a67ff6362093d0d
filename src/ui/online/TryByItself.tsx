"use client";

import type { Chain } from "@/core/chain/chainOf";
import type { OnlineDesk } from "@/ui/online/useOnline";

/** What Gormit itself can look at from the site's network. */
export function TryByItself(_: { desk: OnlineDesk; chain: Chain }) {
  return null;
}
