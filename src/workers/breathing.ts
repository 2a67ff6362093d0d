import type { Slices } from "@/core/slices";

const BREATHE_EVERY_MS = 40;

/**
 * Work of a page's worker, with a breath every now and then in which a newer call can be heard.
 *
 * @param isWanted Asked after each breath.
 * @param onBreath Told how far the work has come, before each breath.
 * @returns What the work comes to, or `"cancelled"` once nobody wants it any more.
 */
export async function breathing<T, P>(
  work: Slices<T, P>,
  isWanted: () => boolean,
  onBreath: (progress: P) => void = () => undefined,
): Promise<T | "cancelled"> {
  for (let breathed = performance.now(); ;) {
    const { done, value } = work.next();
    if (done) return value as T;
    if (performance.now() - breathed < BREATHE_EVERY_MS) continue;
    onBreath(value as P);
    await new Promise((resolve) => setTimeout(resolve));
    breathed = performance.now();
    if (!isWanted()) return "cancelled";
  }
}
