/** Fills the database in `CUCHARA_DATA` with the demo scenario. */
import { makeDemo } from "../src/server/demo/make-demo";

makeDemo().then(
  () => process.exit(0),
  (error: unknown) => {
    console.error(error);
    process.exit(1);
  },
);
