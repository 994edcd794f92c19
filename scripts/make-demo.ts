/** Fills the database in `CUCHARA_DATA` with the demo scenario; with `CUCHARA_DEMO=plain` without the weeks of work on it. */
import { makeDemo } from "../src/server/demo/make-demo";

makeDemo(process.env.CUCHARA_DEMO !== "plain").then(
  () => process.exit(0),
  (error: unknown) => {
    console.error(error);
    process.exit(1);
  },
);
