process.env.CUCHARA_LOG = "silent";
module.exports = {
  testEnvironment: "node",
  roots: ["<rootDir>/tests/unit"],
  setupFiles: ["<rootDir>/tests/unit/helpers/seed.ts"],
  testMatch: ["**/*.test.ts"],
  // A test hangs or it does not; how fast a machine is, is not asked here.
  testTimeout: 60_000,
  // Tests run in a context whose every look at a global is slow; these stand in the inner loops of the core.
  sandboxInjectedGlobals: ["Math", "Number", "Float64Array", "Uint8Array"],
  transform: {
    "^.+\\.tsx?$": ["@swc/jest", { jsc: { parser: { syntax: "typescript", tsx: true }, target: "es2022" } }],
  },
  moduleNameMapper: {
    "\\.module\\.css$": "<rootDir>/tests/unit/helpers/styles.cjs",
    "^@/(.*)$": "<rootDir>/src/$1",
  },
};
