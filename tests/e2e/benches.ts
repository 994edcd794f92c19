/** Files of tests run side by side, each on a program and demo data of its own. */
export const benches = (process.env.CUCHARA_TEST_PORTS ?? "4790,4791")
  .split(",")
  .map((port, index) => ({ port: Number(port), data: `.build/e2e-data-${index}` }));
