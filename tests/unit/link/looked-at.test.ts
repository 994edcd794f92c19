/** Heats that nobody has asked for a while: asked once when somebody looks, and not known any more after a restart. */
import { printers as shelf } from "@/server/db/printers";
import { connect, simulatorOf } from "@/server/link/hub";
import { ladle } from "../helpers/demo";
import { onDataOfItsOwn } from "./own-data";
import { pause, until } from "./ways";

onDataOfItsOwn("looked");

test("a look asks once, another look soon after asks nothing, and a restart makes them unknown", async () => {
  const printer = shelf.add(ladle);
  const link = await connect(printer.id, { kind: "simulated", rate: 100 });
  const { machine } = simulatorOf(printer);
  expect(link.status().heat).toBeNull();
  // Linking and waiting send nothing.
  await pause(100);
  expect(machine.linesTaken).toBe(0);
  link.lookAtHeat();
  await until(() => link.status().heat !== null, "the printer has told its heats");
  expect(machine.linesTaken).toBe(1);
  for (let i = 0; i < 5; i++) link.lookAtHeat();
  await pause(100);
  expect(machine.linesTaken).toBe(1);
  expect(link.status().heatAgeS).toBeLessThan(5);
  await pause(5);
  simulatorOf(printer).powerCycle();
  await until(() => link.session.restarts === 1, "the restart is noticed");
  expect(link.status()).toMatchObject({ heat: null, heatAgeS: null });
});
