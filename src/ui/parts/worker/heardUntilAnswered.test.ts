import { describe, expect, it } from "vitest";
import { heardUntilAnswered } from "@/ui/parts/worker/heardUntilAnswered";

describe("Progress of a worker", () => {
  it("is heard while the work goes on, and not when its last word comes after the answer", async () => {
    const heard: number[] = [];
    let late: (progress: number) => void = () => undefined;
    const answer = await heardUntilAnswered<number, string>(
      (onProgress) => {
        late = onProgress;
        onProgress(0.5);
        return Promise.resolve("done");
      },
      (progress) => heard.push(progress),
    );
    late(1);
    expect(answer).toBe("done");
    expect(heard).toEqual([0.5]);
  });

  it("is not heard after a failure either", async () => {
    const heard: number[] = [];
    let late: (progress: number) => void = () => undefined;
    const asked = heardUntilAnswered<number, string>(
      (onProgress) => {
        late = onProgress;
        return Promise.reject(new Error("no memory"));
      },
      (progress) => heard.push(progress),
    );
    await expect(asked).rejects.toThrow("no memory");
    late(1);
    expect(heard).toEqual([]);
  });
});
