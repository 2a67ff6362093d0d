import { describe, expect, it } from "vitest";
import { keyedQueue } from "@/db/keyedQueue";

describe("keyedQueue", () => {
  it("runs what has one key in turn, and what has another beside it", async () => {
    const alone = keyedQueue(10);
    const heard: string[] = [];
    let release = (): void => undefined;
    const held = new Promise<void>((resolve) => {
      release = resolve;
    });
    const slow = alone("a", async () => {
      heard.push("a1 begins");
      await held;
      heard.push("a1 ends");
    });
    const next = alone("a", async () => {
      heard.push("a2");
    });
    await alone("b", async () => {
      heard.push("b");
    });
    release();
    await Promise.all([slow, next]);
    expect(heard).toEqual(["a1 begins", "b", "a1 ends", "a2"]);
  });

  it("goes on after one that failed, and tells its caller alone", async () => {
    const alone = keyedQueue(10);
    const failed = alone("a", async () => {
      throw new Error("no");
    });
    const next = alone("a", async () => 2);
    await expect(failed).rejects.toThrow("no");
    expect(await next).toEqual({ kind: "done", value: 2 });
  });

  it("sends away whoever would wait behind too many, and takes them again once it is quiet", async () => {
    const alone = keyedQueue(1);
    const both = [alone("a", async () => 1), alone("a", async () => 2)];
    expect(await alone("a", async () => 3)).toEqual({ kind: "crowded" });
    await Promise.all(both);
    expect(await alone("a", async () => 4)).toEqual({ kind: "done", value: 4 });
  });
});
