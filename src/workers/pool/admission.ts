export interface PoolLimits {
  readonly threads: number;
  /** Running at once for one person, and waiting for their turn; and waiting of everybody. */
  readonly perPerson: number;
  readonly waitingPerPerson: number;
  readonly waiting: number;
  readonly timeMs: number;
  /** A thread that nobody asks for so long is let go. */
  readonly keepMs: number;
}

type Turn =
  | { readonly kind: "entered"; readonly leave: () => void }
  | { readonly kind: "busy"; readonly whose: "person" | "everybody"; readonly retryAfterS: number }
  | { readonly kind: "aborted" };

export interface Admission {
  enter(person: string, signal: AbortSignal): Promise<Turn>;
}

interface Waiting {
  readonly person: string;
  readonly admit: () => void;
}

const RETRY_PERSON_S = 2;
const RETRY_EVERYBODY_S = 5;

/**
 * Who may compute now, who waits, and who is sent away. Of those who wait, the first whose person has room goes in: one
 * person's long queue holds nobody else up.
 *
 * For example: Two threads, two a person: the third task of one person waits though a thread is free for others.
 */
export function admission({
  threads,
  perPerson,
  waitingPerPerson,
  waiting: mostWaiting,
}: Omit<PoolLimits, "timeMs" | "keepMs">): Admission {
  const running = new Map<string, number>();
  const waiting: Waiting[] = [];
  let inside = 0;

  const hasRoom = (person: string) => inside < threads && (running.get(person) ?? 0) < perPerson;
  const goIn = (person: string) => {
    inside++;
    running.set(person, (running.get(person) ?? 0) + 1);
  };
  const leaveOf = (person: string) => {
    let isLeft = false;
    return () => {
      if (isLeft) return;
      isLeft = true;
      inside--;
      const left = (running.get(person) ?? 1) - 1;
      if (left === 0) running.delete(person);
      else running.set(person, left);
      const at = waiting.findIndex((next) => hasRoom(next.person));
      if (at >= 0) waiting.splice(at, 1)[0]!.admit();
    };
  };

  return {
    enter(person, signal) {
      if (signal.aborted) return Promise.resolve({ kind: "aborted" });
      if (hasRoom(person)) {
        goIn(person);
        return Promise.resolve({ kind: "entered", leave: leaveOf(person) });
      }
      if (waiting.filter((other) => other.person === person).length >= waitingPerPerson)
        return Promise.resolve({ kind: "busy", whose: "person", retryAfterS: RETRY_PERSON_S });
      if (waiting.length >= mostWaiting)
        return Promise.resolve({ kind: "busy", whose: "everybody", retryAfterS: RETRY_EVERYBODY_S });
      return new Promise<Turn>((resolve) => {
        const abort = () => {
          const at = waiting.indexOf(own);
          if (at < 0) return;
          waiting.splice(at, 1);
          resolve({ kind: "aborted" });
        };
        const own: Waiting = {
          person,
          admit: () => {
            signal.removeEventListener("abort", abort);
            goIn(person);
            resolve({ kind: "entered", leave: leaveOf(person) });
          },
        };
        waiting.push(own);
        signal.addEventListener("abort", abort, { once: true });
      });
    },
  };
}
