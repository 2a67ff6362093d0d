import { expect, test } from "vitest";
import { inOneGo, withProgress, type Slices } from "@/core/slices";

function* three(): Slices<string> {
  yield;
  yield;
  return "done";
}

test("in one go is what the slices come to", () => {
  expect(inOneGo(three())).toBe("done");
});

test("a part tells the progress of the whole and comes to the same", () => {
  const work = withProgress(three(), 0.5);
  expect([work.next(), work.next(), work.next()]).toEqual([
    { done: false, value: 0.5 },
    { done: false, value: 0.5 },
    { done: true, value: "done" },
  ]);
});
