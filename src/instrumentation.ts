/** Next.js calls this once, before the first request. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs" || process.env.NODE_ENV !== "production") return;
  const { warmThreads } = await import("@/workers/warmThreads");
  await warmThreads();
  const { warmPrinting } = await import("@/app/threads/printThreads");
  // Nobody waits for it: it is for whoever prints in some seconds.
  void warmPrinting();
}
