import { ensureBuilt, startApp } from "./lib/app.mjs";
import { freePort } from "./lib/cluster.mjs";
import { exitCode, mustRun } from "./lib/command.mjs";
import { migrate, openDatabase } from "./lib/database.mjs";
import { ensureChromium, ensurePackages } from "./lib/install.mjs";
import { checkNode, projectDir } from "./lib/project.mjs";
import { run, say, Stop } from "./lib/say.mjs";

// Arguments go to vitest, to run some of the tests: npm test -- tests/browser/place.test.ts
const only = process.argv.slice(2);

await run(async () => {
  checkNode();
  await ensurePackages();
  const chromium = await ensureChromium();
  if (only.length === 0) await checkSources();
  const database = await openDatabase({ name: "test-cluster", throwAway: true });
  try {
    await migrate(database.url);
    await ensureBuilt();
    const app = await startApp({ port: await freePort(), databaseUrl: database.url });
    try {
      say("Running the tests …");
      const code = await exitCode(process.execPath, ["node_modules/vitest/vitest.mjs", "run", ...only], {
        cwd: projectDir,
        stdio: "inherit",
        env: {
          ...process.env,
          NODE_ENV: "test",
          DATABASE_URL: database.url,
          GORMIT_TEST_APP: app.address,
          GORMIT_TEST_CHROMIUM: chromium,
        },
      });
      if (code !== 0) throw new Stop("Tests failed; see above.");
    } finally {
      await app.stop();
    }
  } finally {
    await database.stop();
  }
});

/** All that is told from the sources alone: on two cores, side by side. */
async function checkSources() {
  say("Lint, form, unused code, types …");
  await Promise.all([checkForm(), checkTypes()]);
}

async function checkForm() {
  await mustRun(process.execPath, ["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"], {
    cwd: projectDir,
    failure: "Lint found problems; see above.",
  });
  await mustRun(process.execPath, ["node_modules/prettier/bin/prettier.cjs", "--check", "--log-level", "warn", "."], {
    cwd: projectDir,
    failure: "Some files are not formatted: npx prettier --write .",
  });
  await mustRun(process.execPath, ["node_modules/knip/bin/knip.js"], {
    cwd: projectDir,
    failure: "There is code or a package that nothing uses; see above.",
  });
}

async function checkTypes() {
  await mustRun(process.execPath, ["node_modules/next/dist/bin/next", "typegen"], { cwd: projectDir, stdio: "ignore" });
  await mustRun(process.execPath, ["node_modules/typescript/bin/tsc", "--noEmit"], {
    cwd: projectDir,
    failure: "The type checker found problems; see above.",
  });
}
