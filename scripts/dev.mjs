import { mustRun } from "./lib/command.mjs";
import { loadDemo, migrate, openDatabase } from "./lib/database.mjs";
import { ensurePackages } from "./lib/install.mjs";
import { projectDir } from "./lib/project.mjs";
import { run } from "./lib/say.mjs";

// Like the demo, with the development server: changes show at once.
await run(async () => {
  await ensurePackages();
  const database = await openDatabase({ name: "cluster" });
  process.on("SIGINT", () => {});
  try {
    await migrate(database.url);
    await loadDemo(database.url);
    await mustRun(
      process.execPath,
      ["node_modules/next/dist/bin/next", "dev", "-H", "127.0.0.1", "-p", process.env.PORT ?? "3000"],
      {
        cwd: projectDir,
        env: { ...process.env, DATABASE_URL: database.url, NEXT_TELEMETRY_DISABLED: "1" },
      },
    );
  } finally {
    await database.stop();
  }
});
