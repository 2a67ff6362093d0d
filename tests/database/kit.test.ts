import { afterAll, describe, expect, it } from "vitest";
import { kitSchema } from "@/core/kits/kitSchema";
import { readYaml } from "@/core/kits/readYaml";
import { closeDatabase, query } from "@/db/client";
import { deleteKit, manyJobsWithKit, manyKits, maybeKit, restoreKit, saveKit, type KitOutcome } from "@/db/kit";
import { keptJob } from "../fixtures/keptJob";
import { jobFromPattern, kitText } from "../fixtures/shipped";

describe("kit", () => {
  afterAll(() => closeDatabase());

  it("keeps text and document, and replaces them on another save", async () => {
    await save("db-meter");
    const text = textOf("db-meter").replace("classPct: 0.5", "classPct: 0.2");
    await save("db-meter", text, 1);
    expect(await maybeKit("db-meter")).toMatchObject({ text, origin: "own", kit: { metering: { classPct: 0.2 } } });
    expect(await query("select revision from kit where id = 'db-meter'")).toEqual([{ revision: 2 }]);
  });

  it("hides a deleted kit until it is brought back", async () => {
    await save("gone-meter");
    expect(await deleteKit("gone-meter")).toBe(true);
    expect(await deleteKit("gone-meter")).toBe(false);
    expect((await manyKits()).kits.map(({ kit }) => kit.id)).not.toContain("gone-meter");
    expect(await restoreKit("gone-meter")).toBe(true);
    expect(await maybeKit("gone-meter")).toBeDefined();
  });

  it("finds the jobs that use a kit", async () => {
    const document = jobFromPattern("metering-gateway", { name: "With a gateway" });
    const job = await keptJob(document);
    expect(await manyJobsWithKit("gateway-din-metering")).toContainEqual({ id: job.id, name: "With a gateway" });
    expect((await manyJobsWithKit("pv-single-5k-keys")).map(({ id }) => id)).not.toContain(job.id);
  });

  it("takes no row whose document is another kit", async () => {
    await expect(
      query("insert into kit (id, text, document) values ('a', '', $1)", [
        JSON.stringify({ format: "gormit-kit", id: "b" }),
      ]),
    ).rejects.toThrow(/check constraint/);
  });
});

function textOf(id: string): string {
  return kitText("meter-three-5a").replace("id: meter-three-5a", `id: ${id}`);
}

async function save(id: string, text = textOf(id), revision = 0): Promise<KitOutcome> {
  const outcome = readYaml(text, kitSchema);
  if (outcome.kind === "bad-file") throw new Error(outcome.problems[0]?.message);
  return saveKit(outcome.value, text, revision);
}
