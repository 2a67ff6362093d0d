"use client";

import { useEffect, useState } from "react";
import type { Diagnosis } from "@/core/flows/diagnose";
import type { JobDocument } from "@/core/job/jobDocument";
import { inOneGo, type Slices } from "@/core/slices";
import { rememberedWork, type WorkedOut } from "@/core/stages";
import type { VisitEntry } from "@/core/visit/visitEntry";

/** So much is worked out at once between two frames: a frame of a 60 Hz display has 16 ms. */
const SLICE_MS = 5;

/**
 * What is worked out of the open job: its sheet, where the visit stands, its findings. A change is taken up between
 * frames, so that whoever types sees their letters at once; what was known stays until the next is there.
 */
export function useWorkedOut(
  document: JobDocument,
  entries: readonly VisitEntry[],
  diagnosis: Diagnosis | undefined,
): WorkedOut {
  const [workOn] = useState(rememberedWork);
  const [known, setKnown] = useState(() => inOneGo(workOn(document, entries, diagnosis)));
  const isKnown = known.view.document === document && known.entries === entries && known.view.diagnosis === diagnosis;
  useEffect(() => {
    if (isKnown) return;
    return betweenFrames(workOn(document, entries, diagnosis), setKnown, (error) =>
      // Thrown where React draws, so that what cannot be worked out is met by the job's boundary.
      setKnown(() => {
        throw error;
      }),
    );
  }, [workOn, document, entries, diagnosis, isKnown]);
  return known;
}

/** Take work on between frames until it is done; the function that comes back ends it. */
function betweenFrames<T>(work: Slices<T>, onDone: (value: T) => void, onError: (error: unknown) => void): () => void {
  const go = () => {
    try {
      const until = performance.now() + SLICE_MS;
      do {
        const { done, value } = work.next();
        if (done) return onDone(value as T);
      } while (performance.now() < until);
    } catch (error) {
      return onError(error);
    }
    timer = setTimeout(go);
  };
  let timer = setTimeout(go);
  return () => clearTimeout(timer);
}
