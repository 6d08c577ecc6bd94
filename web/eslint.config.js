import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.generated.d.ts", "eslint.config.js"] },
  js.configs.recommended,
  tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  // the two rules that need no compiler: its other ones take a quarter of all linting
  {
    plugins: { "react-hooks": hooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  {
    rules: {
      // numbers in template strings are what drawing is made of
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      // handlers like onClick={() => run()} read better in one line
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      // a feature is used through its index, never through its inside
      "no-restricted-imports": ["error", { patterns: [{ regex: "features/[^/]+/.+", message: "Import the feature's index." }] }],
    },
  },
);
