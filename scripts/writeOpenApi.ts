import { mkdir, writeFile } from "node:fs/promises";
import { openApi } from "@/app/api/description/openApi";

const FOLDER = new URL("../docs/api/", import.meta.url);

await mkdir(FOLDER, { recursive: true });
await writeFile(new URL("openapi.json", FOLDER), `${JSON.stringify(openApi(), null, 2)}\n`);
