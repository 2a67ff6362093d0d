/** Time that may be spent; it fills up again as time goes by. */
export interface TimeAllowance {
  readonly isLeft: () => boolean;
  /** Take off what was spent, ms; more than is left is taken too, and has to fill up first. */
  readonly spend: (spentMs: number) => void;
}

/**
 * An allowance of time for work that can wait, so that it takes a share of the machine and no more, however many ask.
 *
 * For example: of 2000 ms at a share of 0.2, where 2500 ms were spent nothing is left for the next 2.5 s.
 *
 * @param mostMs What is there at first, and no more than that after any rest, ms.
 * @param share What comes back of every millisecond that goes by, 0 to 1.
 * @param nowMs The clock, ms.
 */
export function timeAllowance(mostMs: number, share: number, nowMs = () => performance.now()): TimeAllowance {
  let left = mostMs;
  let filledAt = nowMs();
  const fill = () => {
    const now = nowMs();
    left = Math.min(mostMs, left + share * (now - filledAt));
    filledAt = now;
  };
  return {
    isLeft: () => {
      fill();
      return left > 0;
    },
    spend: (spentMs) => {
      fill();
      left -= spentMs;
    },
  };
}
