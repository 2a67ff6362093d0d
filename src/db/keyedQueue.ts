export type Turn<T> = { readonly kind: "done"; readonly value: T } | { readonly kind: "crowded" };

/**
 * Runs what has one key one after the other, and what has different keys side by side; whoever would wait behind more
 * than so many is sent away at once.
 *
 * @example const alone = keyedQueue(30); await alone("job 1", () => save()) // { kind: "done", value: … }
 */
export function keyedQueue(mostWaiting: number): <T>(key: string, work: () => Promise<T>) => Promise<Turn<T>> {
  const lines = new Map<string, { last: Promise<unknown>; length: number }>();
  return async (key, work) => {
    const line = lines.get(key) ?? { last: Promise.resolve(), length: 0 };
    if (line.length > mostWaiting) return { kind: "crowded" };
    lines.set(key, line);
    line.length++;
    const own = line.last.then(work);
    line.last = own.catch(() => undefined);
    try {
      return { kind: "done", value: await own };
    } finally {
      line.length--;
      if (line.length === 0) lines.delete(key);
    }
  };
}
