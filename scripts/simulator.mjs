/** `npm run simulator`: all set-up, then a simulated printer as a device of its own. See `scripts/simulator.ts`. */
import { bin, install, run } from "./prepare.mjs";

await install();
run(bin("tsx"), ["scripts/simulator.ts", ...process.argv.slice(2)]);
