/** Addresses in the network that the user has confirmed for a printer. */
import { database } from "./connection";

export const confirmedAddresses = {
  has(printerId: number, address: string): boolean {
    return (
      database()
        .prepare("SELECT 1 FROM confirmed_addresses WHERE printer_id = ? AND address = ?")
        .get(printerId, address.toLowerCase()) !== undefined
    );
  },
  add(printerId: number, address: string): void {
    database()
      .prepare("INSERT OR IGNORE INTO confirmed_addresses (printer_id, address, confirmed_at) VALUES (?, ?, ?)")
      .run(printerId, address.toLowerCase(), new Date().toISOString());
  },
};
