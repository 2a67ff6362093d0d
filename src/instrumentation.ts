/** Next.js calls this once, before the first request. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs" || process.env.NODE_ENV !== "production") return;
  const { warmThreads } = await import("@/workers/warmThreads");
  await warmThreads();
}
