import { expect, test } from "vitest";
import { namesGiven } from "@/core/job/namesGiven";
import { changeNode } from "@/core/edits/editPlan";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

test("names with a number in them are found wherever they were given, each once", () => {
  const job = jobFromPattern("export-controller");
  const named = changeNode("solar-1", { name: "Roof 2.1" })(job);
  const places = named.site.places.map((place, at) => (at === 0 ? { ...place, name: "Roof 2.1" } : place));
  const steps = [{ label: "Kettle, 12 m away", devices: [], readings: [], source: "seen" as const }];
  const whole = { ...named, kits: [], site: { ...named.site, places }, tests: { ...named.tests, steps } };
  expect(namesGiven(whole)).toEqual(["Roof 2.1", "Kettle, 12 m away"]);
});

test("of a job without any it is the same nothing each time", () => {
  const job = { ...jobFromPattern("export-controller"), kits: [] };
  expect(namesGiven(job)).toBe(namesGiven({ ...job }));
});
