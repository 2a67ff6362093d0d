/** Times in the loop are whole microseconds: no period is rounded to a step, and equal times are equal. */
const US_A_MS = 1000;
/** What was read is let go of in lots. */
const COMPACT_AT = 512;

/** @example microseconds(250) // 250000 */
export function microseconds(ms: number): number {
  return Math.round(ms * US_A_MS);
}

/** Something that happens every so often, from 0 on or one period later. */
export class Ticker {
  private nextUs: number;

  constructor(
    private readonly periodUs: number,
    isFromStart = true,
  ) {
    this.nextUs = isFromStart ? 0 : periodUs;
  }

  /** Whether it happens at this time, or did since it was asked last. */
  due(us: number): boolean {
    if (us < this.nextUs) return false;
    this.nextUs = (Math.floor(us / this.periodUs) + 1) * this.periodUs;
    return true;
  }
}

/** Values that are on their way, each for the same time. */
export class Late<T> {
  private readonly sentUs: number[] = [];
  private readonly values: T[] = [];
  private head = 0;

  /** @param current What is there before anything that was sent has come. */
  constructor(
    private readonly delayUs: number,
    private current: T,
  ) {}

  send(us: number, value: T): void {
    this.sentUs.push(us);
    this.values.push(value);
  }

  /** What has come by now. */
  at(us: number): T {
    while (this.head < this.sentUs.length && this.sentUs[this.head]! + this.delayUs <= us)
      this.current = this.values[this.head++]!;
    if (this.head > COMPACT_AT) {
      this.sentUs.splice(0, this.head);
      this.values.splice(0, this.head);
      this.head = 0;
    }
    return this.current;
  }
}
