import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import type { z } from "zod";
import { readYaml } from "@/core/kits/readYaml";

/**
 * Where each folder's files are. Written out, so that a build knows which files of the project belong to the program.
 */
const FILES = {
  kits: {
    list: () => readdir(join(process.cwd(), "kits")),
    read: (name: string) => readFile(join(process.cwd(), "kits", name), "utf8"),
  },
  patterns: {
    list: () => readdir(join(process.cwd(), "patterns")),
    read: (name: string) => readFile(join(process.cwd(), "patterns", name), "utf8"),
  },
} as const;

/**
 * Read every YAML file of a folder beside the program by its schema. A shipped file that does not validate is a
 * defect of the program, so it throws with file, line and message.
 */
export async function shippedFiles<S extends z.ZodType>(
  folder: keyof typeof FILES,
  schema: S,
): Promise<readonly { readonly value: z.output<S>; readonly text: string }[]> {
  const { list, read } = FILES[folder];
  const names = (await list()).filter((name) => name.endsWith(".yaml")).sort();
  return Promise.all(
    names.map(async (name) => {
      const text = await read(name);
      const outcome = readYaml(text, schema);
      if (outcome.kind === "ok") return { value: outcome.value, text };
      const [first] = outcome.problems;
      throw new Error(`${folder}/${name}:${first?.line}: ${first?.path.join(".")}: ${first?.message}`);
    }),
  );
}
