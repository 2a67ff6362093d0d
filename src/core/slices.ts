/**
 * Work in slices of a few milliseconds, each yielding how far it has come where that is known: whoever runs it may let
 * others go first in between, or stop.
 */
export type Slices<T, P = unknown> = Generator<P, T, void>;

/**
 * What work in slices comes to, all in one go.
 *
 * @example inOneGo((function* () { yield; return 7; })()) // 7
 */
export function inOneGo<T>(work: Slices<T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value as T;
  }
}

/** Work whose slices all tell the same progress: a part of something larger. */
export function* withProgress<T, P>(work: Slices<T>, progress: P): Slices<T, P> {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value as T;
    yield progress;
  }
}
