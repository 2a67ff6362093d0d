import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { supervise } from "../../scripts/lib/supervise.mjs";

type Options = Parameters<typeof supervise>[0];

/** An app that ends when it is told to. */
function fakeApp(): Options["hold"]["app"] & { readonly end: (how: string) => void } {
  let end = (_how: string): void => undefined;
  const ended = new Promise<string>((resolve) => {
    end = resolve;
  });
  return { address: "http://127.0.0.1:1", pid: 1, ended, stop: async () => undefined, end: (how) => end(how) };
}

function desk() {
  const said: string[] = [];
  vi.spyOn(console, "log").mockImplementation((line: string) => {
    said.push(line);
  });
  const apps = [fakeApp()];
  const hold = { app: apps[0]! as Options["hold"]["app"] };
  const database = { isThere: true, starts: 0, failures: 0 };
  const cluster = {
    url: "",
    created: false,
    data: "",
    isRunning: async () => database.isThere,
    lastWords: async () => "LOG: received SIGKILL",
    stop: async () => undefined,
    startAgain: async () => {
      database.starts++;
      if (database.failures-- > 0) throw new Error("shared memory is still in use");
      database.isThere = true;
    },
  };
  let stop = (): void => undefined;
  const stopped = new Promise<void>((resolve) => {
    stop = resolve;
  });
  const start = async () => {
    const app = fakeApp();
    apps.push(app);
    return app;
  };
  const noted: unknown[] = [];
  const work = supervise({
    hold,
    cluster,
    start,
    stop: stopped,
    onApp: async () => {
      noted.push(hold.app);
    },
  });
  return { said, apps, hold, database, work, stop: () => stop(), noted };
}

describe("the demo", () => {
  beforeEach(() => {
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.restoreAllMocks();
  });

  it("starts an app again that ends by itself, says how it ended, and notes the new one down", async () => {
    const { said, apps, hold, work, stop, noted } = desk();
    apps[0]!.end("by the signal SIGKILL");
    await vi.advanceTimersByTimeAsync(10);
    expect(apps).toHaveLength(2);
    expect(hold.app).toBe(apps[1]);
    expect(noted).toEqual([apps[1]]);
    expect(said.join("\n")).toContain("The app ended by the signal SIGKILL.");
    stop();
    await work;
  });

  it(
    "starts a database again that ends by itself, though its helpers are still there, and " + "shows its last words",
    async () => {
      const { said, database, work, stop } = desk();
      database.isThere = false;
      database.failures = 2;
      await vi.advanceTimersByTimeAsync(5_000);
      expect(database).toMatchObject({ isThere: true, starts: 3 });
      expect(said.join("\n")).toContain("LOG: received SIGKILL");
      stop();
      await work;
    },
  );

  it("ends as a whole, with the reason, when the app ends again and again", async () => {
    const { apps, work } = desk();
    const outcome = work.then(
      () => "went on",
      (error: Error) => error.message,
    );
    for (let round = 0; round < 6; round++) {
      apps.at(-1)!.end("with code 1");
      await vi.advanceTimersByTimeAsync(20);
    }
    expect(await outcome).toContain("The app ended again. Started again 4 times within five minutes");
  });

  it("starts nothing again once somebody wants to stop", async () => {
    const { apps, work, stop } = desk();
    stop();
    await work;
    apps[0]!.end("by the signal SIGTERM");
    await vi.advanceTimersByTimeAsync(3_000);
    expect(apps).toHaveLength(1);
  });
});
