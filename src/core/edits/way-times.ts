/** How long the ways of a file take when those across the bed have other feeds. */
import { MoveKind } from "../gcode/moves";
import type { Bead } from "../trace/bead";
import { bitOf } from "../trace/fields";
import type { SeenFile } from "./edit";
import { PlaceFinder } from "./scope";

export class WayTimes {
  private readonly place: PlaceFinder;
  private next = 0;

  constructor(private readonly file: SeenFile) {
    this.place = new PlaceFinder(file);
  }

  /**
   * Gives the way to a bead the time it takes then; asked bead by bead.
   *
   * @param feedOf the feed of a way across the bed in a layer, mm/s, from the one it has
   */
  retime(bead: Bead, feedOf: (layer: number, feedMmS: number) => number): void {
    const { moves } = this.file.tables();
    const { x, y, z, feedMmS, kind, filamentMm, line } = moves;
    const first = this.next;
    this.next = bead.move + 1;
    for (let i = Math.max(1, first); i < bead.move; i++) {
      this.place.at(line[i]);
      const isAcross = kind[i] === MoveKind.travel && filamentMm[i] === 0 && (x[i] !== x[i - 1] || y[i] !== y[i - 1]);
      if (!isAcross || this.place.part !== "print") continue;
      const feed = feedOf(this.place.layer, feedMmS[i]);
      if (feed === feedMmS[i]) continue;
      // The end of a bead that is laid without filament goes on at its feed; so may a way that nobody gives another.
      if (i === first && feedMmS[i] === feedMmS[i - 1]) bead.open |= bitOf.travelFeed;
      const lengthMm = Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1], z[i] - z[i - 1]);
      bead.way.travelS += lengthMm / feed - lengthMm / feedMmS[i];
    }
  }
}
