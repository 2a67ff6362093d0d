import next from "eslint-config-next/core-web-vitals";
import typescript from "eslint-config-next/typescript";

const config = [
  { ignores: [".next/**", ".gormit/**", "node_modules/**", "next-env.d.ts"] },
  ...next,
  ...typescript,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": "error",
      "no-console": "error",
      eqeqeq: "error",
    },
  },
  { files: ["scripts/**", "tests/setup/**"], rules: { "no-console": "off" } },
];

export default config;
