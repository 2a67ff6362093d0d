import { Worker } from "node:worker_threads";
import fc from "fast-check";
import { afterEach, describe, expect, it } from "vitest";
import { admission } from "@/workers/pool/admission";
import { threadPool, type ThreadPool } from "@/workers/pool/threadPool";

/** A thread with the protocol of `serveTasks`, in plain JavaScript: what vitest has not built cannot be started. */
const THREAD = `
const { parentPort } = require("node:worker_threads");
const done = (value) => parentPort.postMessage({ kind: "done", value });
parentPort.on("message", ({ name, input, stop }) => {
  if (name === "echo") return done(input);
  if (name === "fail") return parentPort.postMessage({ kind: "failed", message: "a defect" });
  if (name === "spin") for (;;) ;
  if (name === "grow") { const all = []; for (;;) all.push(new Array(1e5).fill(Math.random())); }
  if (name === "leave") process.exit(3);
  if (name === "listen") {
    const timer = setInterval(() => {
      if (Atomics.load(stop, 0) !== 1) return;
      clearInterval(timer);
      parentPort.postMessage({ kind: "aborted" });
    }, 5);
  }
});`;

const LIMITS = { threads: 2, perPerson: 2, waitingPerPerson: 1, waiting: 2, timeMs: 400, keepMs: 60_000 };
const FOREVER = new AbortController().signal;

describe("threadPool", () => {
  const pools: ThreadPool[] = [];
  const pool = (limits: Partial<typeof LIMITS> = {}) => {
    const made = threadPool(() => new Worker(THREAD, { eval: true, resourceLimits: { maxOldGenerationSizeMb: 24 } }), {
      ...LIMITS,
      ...limits,
    });
    pools.push(made);
    return made;
  };
  afterEach(async () => {
    await Promise.all(pools.splice(0).map((made) => made.close()));
  });

  it("gives back what a thread answers, and throws what it throws; the thread goes on", async () => {
    const own = pool({ threads: 1 });
    expect(await own.run({ name: "echo", input: { a: 1 } }, "Kim", FOREVER)).toEqual({ kind: "done", value: { a: 1 } });
    await expect(own.run({ name: "fail", input: null }, "Kim", FOREVER)).rejects.toThrow("a defect");
    expect(await own.run({ name: "echo", input: 2 }, "Kim", FOREVER)).toEqual({ kind: "done", value: 2 });
  });

  it.each([
    ["takes too long", "spin", { kind: "too-long", limitMs: 400 }],
    ["grows too large", "grow", { kind: "too-large" }],
  ])("ends a thread that %s, says so, and starts another", async (_, name, answer) => {
    const own = pool({ threads: 1, timeMs: name === "grow" ? 30_000 : 400 });
    expect(await own.run({ name, input: null }, "Kim", FOREVER)).toEqual(answer);
    expect(await own.run({ name: "echo", input: 3 }, "Kim", FOREVER)).toEqual({ kind: "done", value: 3 });
  });

  it("tells its caller when a thread ends by itself, and goes on with another", async () => {
    const own = pool({ threads: 1 });
    await expect(own.run({ name: "leave", input: null }, "Kim", FOREVER)).rejects.toThrow("ended by itself");
    expect(await own.run({ name: "echo", input: 4 }, "Kim", FOREVER)).toEqual({ kind: "done", value: 4 });
  });

  it.each(["listen", "spin"])(
    "ends what nobody waits for any more, whether the thread hears it or not (%s)",
    async (name) => {
      const own = pool({ threads: 1, timeMs: 30_000 });
      const leaving = new AbortController();
      const asked = own.run({ name, input: null }, "Kim", leaving.signal);
      leaving.abort();
      expect(await asked).toEqual({ kind: "aborted" });
      expect(await own.run({ name: "echo", input: 5 }, "Kim", FOREVER)).toEqual({ kind: "done", value: 5 });
    },
  );

  it("sends away one who asks for too much, and serves another meanwhile", async () => {
    const own = pool({ perPerson: 1 });
    const long = [1, 2].map(() => own.run({ name: "spin", input: null }, "Kim", FOREVER));
    expect(await own.run({ name: "echo", input: 6 }, "Kim", FOREVER)).toMatchObject({ kind: "busy", whose: "person" });
    expect(await own.run({ name: "echo", input: 7 }, "Robin", FOREVER)).toEqual({ kind: "done", value: 7 });
    await Promise.all(long);
  });
});

describe("admission", () => {
  it(
    "never lets more in than there is room for, nor more of one person; everybody who waits " + "gets in or leaves",
    async () => {
      const anyAsk = fc.record({ person: fc.constantFrom("a", "b", "c"), leaves: fc.boolean() });
      await fc.assert(
        fc.asyncProperty(fc.array(anyAsk, { maxLength: 30 }), async (asks) => {
          const gate = admission({ threads: 3, perPerson: 2, waitingPerPerson: 4, waiting: 6 });
          const inside: string[] = [];
          const leavers: (() => void)[] = [];
          const answers = asks.map(({ person, leaves }) => {
            const stay = new AbortController();
            const answer = gate.enter(person, stay.signal).then((turn) => {
              if (turn.kind !== "entered") return turn.kind;
              inside.push(person);
              expect(inside.length).toBeLessThanOrEqual(3);
              expect(inside.filter((other) => other === person).length).toBeLessThanOrEqual(2);
              leavers.push(() => {
                inside.splice(inside.indexOf(person), 1);
                turn.leave();
                turn.leave();
              });
              return turn.kind;
            });
            if (leaves) stay.abort();
            return answer;
          });
          for (let round = 0; round < 2 * asks.length + 2; round++) {
            await new Promise((resolve) => {
              setImmediate(resolve);
            });
            leavers.shift()?.();
          }
          const kinds = await Promise.all(answers);
          expect(inside).toEqual([]);
          for (const kind of kinds) expect(["entered", "busy", "aborted"]).toContain(kind);
        }),
        { numRuns: 60 },
      );
    },
  );
});
