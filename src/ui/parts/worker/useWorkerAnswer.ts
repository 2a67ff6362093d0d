"use client";

import type * as Comlink from "comlink";
import { useEffect, useState } from "react";
import { useWorkerThread } from "@/ui/parts/worker/useWorkerThread";

/** What a worker said of the last request; `failure` in words where it could say nothing. */
export interface WorkerAnswer<Q, R> {
  readonly result: R | undefined;
  /** What the result is of. */
  readonly of: Q | undefined;
  readonly failure: string | undefined;
  readonly isBusy: boolean;
}

/**
 * Ask a worker whenever a request changes; the last answer stays until the next is there. An answer of nothing means
 * that a newer request took its place. `open` and `ask` must be functions that do not change.
 */
export function useWorkerAnswer<W, Q, R>(
  open: () => Worker,
  request: Q | undefined,
  ask: (worker: Comlink.Remote<W>, request: Q) => Promise<R | undefined>,
): WorkerAnswer<Q, R> {
  const worker = useWorkerThread<W>(open);
  const [answer, setAnswer] = useState<{
    readonly text?: string;
    readonly of?: Q;
    readonly result?: R;
    readonly failure?: string;
  }>({});
  const text = request === undefined ? undefined : JSON.stringify(request);
  useEffect(() => {
    const remote = worker.current;
    if (text === undefined || !remote) return;
    let isOutdated = false;
    const asked = JSON.parse(text) as Q;
    ask(remote, asked).then(
      (result) => {
        if (!isOutdated && result !== undefined) setAnswer({ text, of: asked, result });
      },
      (error: unknown) => {
        if (!isOutdated) setAnswer((before) => ({ ...before, text, failure: failureText(error) }));
      },
    );
    return () => {
      isOutdated = true;
    };
  }, [ask, text, worker]);
  return {
    result: answer.result,
    of: answer.of,
    failure: answer.text === text ? answer.failure : undefined,
    isBusy: text !== undefined && answer.text !== text,
  };
}

/** What failed, for a person: a request that no schema takes is named by its first value out of range. */
export function failureText(error: unknown): string {
  const message = error instanceof Error ? error.message : String(error);
  try {
    // A schema's error comes over from a worker as its list of issues, in words.
    const [first] = JSON.parse(message) as readonly {
      readonly path: readonly (string | number)[];
      readonly message: string;
    }[];
    return first ? `${first.path.join(".")}: ${first.message}` : message;
  } catch {
    return message;
  }
}
