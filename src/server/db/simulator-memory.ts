/** What simulated printers have saved in themselves: it outlives this program as a real one's memory would. */
import type { SavedMemory } from "../simulator/host";
import { database } from "./connection";

export function simulatorMemory(printerId: number): SavedMemory {
  return {
    load() {
      const row = database().prepare("SELECT saved FROM simulator_memory WHERE printer_id = ?").get(printerId) as
        { saved: string } | undefined;
      return row ? (JSON.parse(row.saved) as Record<string, number>) : undefined;
    },
    store(saved) {
      database()
        .prepare(
          "INSERT INTO simulator_memory (printer_id, saved) VALUES (?, ?) ON CONFLICT (printer_id) DO UPDATE SET saved = excluded.saved",
        )
        .run(printerId, JSON.stringify(saved));
    },
  };
}
