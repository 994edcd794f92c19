process.env.CUCHARA_LOG = "silent";
module.exports = {
  testEnvironment: "node",
  roots: ["<rootDir>/tests/unit"],
  setupFiles: ["<rootDir>/tests/unit/helpers/seed.ts"],
  testMatch: ["**/*.test.ts"],
  transform: {
    "^.+\\.tsx?$": ["@swc/jest", { jsc: { parser: { syntax: "typescript", tsx: true }, target: "es2022" } }],
  },
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1" },
};
