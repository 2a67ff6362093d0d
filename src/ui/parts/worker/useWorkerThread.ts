"use client";

import * as Comlink from "comlink";
import { useEffect, useRef, type RefObject } from "react";

/**
 * A web worker for as long as a component is shown. `open` must be a function that does not change, and must name the
 * worker's file itself, so that it is built.
 */
export function useWorkerThread<W>(open: () => Worker): RefObject<Comlink.Remote<W> | undefined> {
  const worker = useRef<Comlink.Remote<W> | undefined>(undefined);
  useEffect(() => {
    const thread = open();
    worker.current = Comlink.wrap<W>(thread);
    return () => {
      worker.current = undefined;
      thread.terminate();
    };
  }, [open]);
  return worker;
}
