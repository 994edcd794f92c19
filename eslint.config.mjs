import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: [".next/**", ".build/**", "node_modules/**", "next-env.d.ts", "test-results/**", "playwright-report/**"] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    files: ["src/**/*.{ts,tsx}", "tests/**/*.ts", "scripts/**/*.ts"],
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-definitions": ["error", "interface"],
      eqeqeq: ["error", "always", { null: "ignore" }],
      "no-console": "error",
      "max-lines": ["error", { max: 480, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ["src/ui/**/*.{ts,tsx}", "src/app/**/*.{ts,tsx}"],
    plugins: { "react-hooks": reactHooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  {
    files: ["src/ui/**/*.{ts,tsx}", "src/app/**/*.{ts,tsx}"],
    ignores: ["src/ui/common/pointed-link.tsx"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          name: "next/link",
          message: "PointedLink fetches a page when somebody points at it, not when its link comes into sight.",
        },
      ],
    },
  },
  {
    files: ["scripts/**", "*.mjs", "*.cjs", "tests/**/*.cjs", "tests/e2e/**"],
    languageOptions: {
      globals: {
        process: "readonly",
        console: "readonly",
        fetch: "readonly",
        setTimeout: "readonly",
        setInterval: "readonly",
        clearInterval: "readonly",
        AbortController: "readonly",
        Buffer: "readonly",
        require: "readonly",
        __dirname: "readonly",
        module: "writable",
      },
    },
    rules: { "no-console": "off", "@typescript-eslint/no-require-imports": "off" },
  },
);
