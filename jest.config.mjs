export default {
  testEnvironment: "node",
  // Some tests start programs, which is slow where the computer is busy.
  testTimeout: 60000,
  // By itself it leaves a core free, which on two means half the speed.
  maxWorkers: "100%",
  setupFiles: ["<rootDir>/scripts/jest-setup.mjs"],
  testMatch: ["<rootDir>/{core,app,cli,server,demo}/**/*.test.{ts,tsx}"],
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  transform: { "^.+\\.tsx?$": "<rootDir>/scripts/jest-transform.mjs" },
};
