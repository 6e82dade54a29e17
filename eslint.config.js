import js from "@eslint/js";
import tseslint from "typescript-eslint";

/** The library is pure but for `node/`: it runs in browsers too. */
const nodeOnly = ["node:*", "fs", "path", "crypto", "http"];

export default tseslint.config(
  { ignores: ["**/dist/**", "docs/**", "out/**", "bramblecomb/**"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    rules: {
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/no-dynamic-delete": "off",
      "@typescript-eslint/unified-signatures": "off",
      "no-control-regex": "off",
      eqeqeq: "error",
      "no-useless-rename": "error",
      "object-shorthand": ["error", "properties"],
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_" }],
    },
  },
  {
    // What only types tell: promises that are not awaited, assertions that assert nothing.
    files: ["packages/**/*.ts", "examples/**/*.{ts,tsx}", "bench/**/*.ts"],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      "@typescript-eslint/no-floating-promises": [
        "error",
        { allowForKnownSafeCalls: [{ from: "package", package: "node:test", name: ["test", "describe", "it"] }] },
      ],
      "@typescript-eslint/no-misused-promises": "error",
      "@typescript-eslint/await-thenable": "error",
      "@typescript-eslint/no-unnecessary-type-assertion": "error",
    },
  },
  { files: ["**/*.js"], languageOptions: { globals: { URL: "readonly", console: "readonly", process: "readonly" } } },
  {
    files: ["packages/*/src/**/*.ts", "examples/*/src/**/*.{ts,tsx}"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector:
            "CallExpression[callee.property.name=/^(push|unshift|splice|add|concat|max|min|fromCharCode)$/] > SpreadElement.arguments",
          message: "a list as the arguments of a call overflows the stack when it is long",
        },
      ],
    },
  },
  {
    files: ["packages/library/src/**/*.ts"],
    ignores: ["packages/library/src/node/**"],
    rules: {
      "no-restricted-imports": ["error", { patterns: nodeOnly }],
      "no-restricted-globals": ["error", "process", "Buffer", "window", "document", "console"],
    },
  },
  {
    // Command line and pages render what the workflow gives: they do not put the stages together themselves.
    files: ["packages/cli/src/**/*.ts", "examples/*/src/**/*.{ts,tsx}"],
    ignores: ["packages/cli/src/docs-pages.ts"],
    rules: { "no-restricted-imports": ["error", { patterns: ["zest-tier/parts", "**/library/**"] }] },
  },
  {
    // The proof has its own code: the simulated platform cuts, fills and looks up by itself.
    files: ["packages/library/src/rehearse/platform/**/*.ts"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            { group: nodeOnly },
            {
              group: [
                "**/layout/read/*",
                "**/layout/fill/*",
                "**/layout/write/*",
                "**/layout/shapes/*",
                "**/layout/bindings/*",
              ],
              message: "the rehearsal does not check a layout's code by that code",
            },
          ],
        },
      ],
    },
  },
  {
    files: ["packages/standins/**/*.ts"],
    rules: { "no-restricted-imports": ["error", { patterns: ["zest-tier", "zest-tier/*", "**/library/**"] }] },
  },
);
