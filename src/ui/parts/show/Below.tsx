"use client";

import { startTransition, useEffect, useState, type ReactNode } from "react";

/** Whether this browser has taken a page over from the server: what comes then is drawn by it alone. */
let hasTakenOver = false;

/**
 * Parts of a stage below what a person looks at first. Where somebody goes there from another stage, these are drawn
 * once what is above them stands, and hold nothing up; a page that comes from the server has them at once.
 */
export function Below({ children }: { children: ReactNode }) {
  const [isShown, setShown] = useState(!hasTakenOver);
  useEffect(() => {
    hasTakenOver = true;
    startTransition(() => setShown(true));
  }, []);
  return isShown ? children : null;
}
