import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import type { z } from "zod";
import { readYaml } from "@/core/kits/readYaml";

/**
 * Read every YAML file of a folder beside the program by its schema. A shipped file that does not validate is a
 * defect of the program, so it throws with file, line and message.
 */
export async function shippedFiles<S extends z.ZodType>(folder: "kits" | "patterns", schema: S): Promise<readonly { readonly value: z.output<S>; readonly text: string }[]> {
  const root = join(process.cwd(), folder);
  const names = (await readdir(root)).filter((name) => name.endsWith(".yaml")).sort();
  return Promise.all(names.map(async (name) => {
    const text = await readFile(join(root, name), "utf8");
    const outcome = readYaml(text, schema);
    if (outcome.kind === "ok") return { value: outcome.value, text };
    const [first] = outcome.problems;
    throw new Error(`${folder}/${name}:${first?.line}: ${first?.path.join(".")}: ${first?.message}`);
  }));
}
