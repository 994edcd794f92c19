import { laysMaterial, MoveKind } from "@/core/gcode/moves";
import { circle, contains, offset, rectangle, Region, regionAreaMm2, union } from "@/core/geometry/polygons";
import { layerTops } from "@/core/heightplan/layer-grid";
import { beadAreaMm2, filamentAreaMm2 } from "@/core/material/bead";
import { moveSeconds } from "@/core/motion/duration";
import { limitsFor } from "@/core/motion/limits";
import { findBridges } from "@/core/printing/bridges";
import { fillIsland } from "@/core/printing/island";
import { layPrint } from "@/core/printing/lay";
import { Process, processFor } from "@/core/printing/process";
import { slice } from "@/core/printing/slices";
import { arcade } from "@/core/specimens/arcade";
import { PieceShape } from "@/core/specimens/specimen";
import { ladle, planOf, printers, saffron, specimenRequest, spools } from "../helpers/demo";

const process: Process = processFor(ladle, saffron, { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 });
const limits = limitsFor(ladle);
const centre = { x: 110, y: 110 };
const start = { x: 60, y: 60 };

function print(shape: PieceShape, own = process) {
  const tops = layerTops(shape.heightMm, own.firstLayerHeightMm, own.layerHeightMm);
  return { ...layPrint({ slices: slice(shape, tops), processOf: () => own, centre, start, limits }), tops };
}

const block = (width: number, depth: number, heightMm: number): PieceShape => ({
  heightMm,
  widthMm: width,
  depthMm: depth,
  solidAt: (z) => (z > 0 && z <= heightMm ? [rectangle(-width / 2, -depth / 2, width / 2, depth / 2)] : []),
  drawing: [],
  legend: "",
  unlabelled: [],
});

describe("volume", () => {
  test("a built tower holds its solid's volume × fill within 3 %, worked out independently by counting cells; small cores are filled whole", () => {
    const plan = planOf([220, 200], 10, 1.4);
    const shape = arcade.shape(specimenRequest(plan, ["220", "200"]));
    const { moves, tops } = print(shape);
    let laid = 0;
    for (let i = 0; i < moves.count; i++) {
      const kind = moves.kind[i];
      if (!laysMaterial(kind) || kind === MoveKind.skirt) continue;
      // Strands over air are round and touch: more than their layer is high, and they hang below it.
      const hangs = kind === MoveKind.bridge ? (Math.PI * 0.36) / (4 * 0.2) : 1;
      laid += (moves.filamentMm[i] * filamentAreaMm2(1.75)) / hangs;
    }
    // Cells of 0.1 mm: solid if the shape says so; massive within two beads of a side, or within four layers of air
    // above or below; the rest counts with the density of the sparse fill.
    const cell = 0.1;
    const columns = 620;
    const rows = 420;
    const rings = (z: number) => union(shape.solidAt(z));
    const grids: Uint8Array[] = [];
    const seen = new Map<string, Uint8Array>();
    for (let layer = 0; layer < tops.length; layer++) {
      const region = rings(Math.min((layer === 0 ? 0 : tops[layer - 1]) / 2 + tops[layer] / 2, shape.heightMm - 1e-4));
      const key = JSON.stringify(region);
      let grid = seen.get(key);
      if (!grid) {
        grid = new Uint8Array(columns * rows);
        for (let row = 0; row < rows; row++) {
          const y = (row - rows / 2 + 0.5) * cell;
          const crossings: number[] = [];
          for (const ring of region) {
            ring.forEach((a, i) => {
              const b = ring[(i + 1) % ring.length];
              if (a.y > y !== b.y > y) crossings.push(a.x + ((b.x - a.x) * (y - a.y)) / (b.y - a.y));
            });
          }
          crossings.sort((a, b) => a - b);
          for (let i = 0; i + 1 < crossings.length; i += 2) {
            const from = Math.ceil(crossings[i] / cell + columns / 2 - 0.5);
            const to = Math.floor(crossings[i + 1] / cell + columns / 2 - 0.5);
            grid.fill(1, row * columns + from, row * columns + to + 1);
          }
        }
        seen.set(key, grid);
      }
      grids.push(grid);
    }
    const rim = Math.round((2 * beadAreaMm2(0.45, 0.2)) / 0.2 / cell);
    let expected = 0;
    const counted = new Map<string, number>();
    const numbers = new Map(grids.map((grid) => [grid, 0]));
    let next = 0;
    for (const grid of numbers.keys()) numbers.set(grid, next++);
    for (let layer = 0; layer < grids.length; layer++) {
      const around = [];
      for (let i = layer - 4; i <= layer + 4; i++) around.push(grids[i] ? numbers.get(grids[i]) : -1);
      const key = around.join();
      if (!counted.has(key)) {
        const grid = grids[layer];
        let volume = 0;
        const sparse = new Set<number>();
        for (let at = 0; at < grid.length; at++) {
          if (grid[at] === 0) continue;
          const column = at % columns;
          let massive = false;
          for (let i = layer - 4; i <= layer + 4 && !massive; i++) massive = !grids[i] || grids[i][at] === 0;
          for (let step = 1; step <= rim && !massive; step++) {
            massive =
              grid[at - step] === 0 ||
              grid[at + step] === 0 ||
              grid[at - step * columns] === 0 ||
              grid[at + step * columns] === 0 ||
              column < step;
          }
          if (massive) volume += cell * cell * 0.2;
          else sparse.add(at);
        }
        // Cores of less than 12 mm² are filled whole: a few short lines would hold nothing.
        while (sparse.size > 0) {
          const core = [sparse.values().next().value!];
          sparse.delete(core[0]);
          for (let k = 0; k < core.length; k++)
            for (const near of [core[k] - 1, core[k] + 1, core[k] - columns, core[k] + columns])
              if (sparse.delete(near)) core.push(near);
          const areaMm2 = core.length * cell * cell;
          volume += areaMm2 * 0.2 * (areaMm2 < 12 ? 1 : process.sparseDensity);
        }
        counted.set(key, volume);
      }
      expected += counted.get(key)!;
    }
    expect(Math.abs(laid / expected - 1)).toBeLessThan(0.03);
  });

  test("a massive block holds its own volume within 3 %", () => {
    const { moves } = print(block(20, 20, 1));
    let laid = 0;
    for (let i = 0; i < moves.count; i++) {
      if (laysMaterial(moves.kind[i]) && moves.kind[i] !== MoveKind.skirt)
        laid += moves.filamentMm[i] * filamentAreaMm2(1.75);
    }
    expect(Math.abs(laid / 400 - 1)).toBeLessThan(0.03);
  });

  test("every line holds length × cross-section of its bead", () => {
    const { moves } = print(block(12, 12, 2));
    const each = beadAreaMm2(0.45, 0.2) / filamentAreaMm2(1.75);
    for (let i = 1; i < moves.count; i++) {
      if (!laysMaterial(moves.kind[i])) continue;
      const length = Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
      expect(moves.filamentMm[i]).toBeCloseTo(length * each, 3);
    }
  });
});

describe("bridges", () => {
  const posts: Region = [rectangle(0, 0, 8, 8), rectangle(38, 0, 46, 8)];
  const deck: Region = [rectangle(0, 0, 46, 8)];

  test("a deck between two posts is a bridge straight across", () => {
    const [bridge, ...others] = findBridges(deck, posts, 0.45);
    expect(others).toEqual([]);
    expect(bridge.angle).toBeCloseTo(0, 6);
    expect(regionAreaMm2(bridge.region)).toBeCloseTo(30 * 8, 0);
  });

  test("turned by 90°, its strands turn too", () => {
    const turned = (region: Region): Region => region.map((ring) => ring.map(({ x, y }) => ({ x: -y, y: x })));
    expect(findBridges(turned(deck), turned(posts), 0.45)[0].angle).toBeCloseTo(Math.PI / 2, 6);
  });

  test("a ledge held at one side only is none", () => {
    expect(findBridges([rectangle(0, 0, 20, 8)], [rectangle(0, 0, 8, 8)], 0.45)).toEqual([]);
  });

  test("a wall that leans out by less than half a bead is none", () => {
    expect(findBridges([rectangle(0, 0, 8.2, 8)], [rectangle(0, 0, 8, 8)], 0.45)).toEqual([]);
  });

  test("a hole closed over is held all round", () => {
    const ring: Region = [rectangle(0, 0, 20, 20), [...rectangle(6, 6, 14, 14)].reverse()];
    expect(findBridges([rectangle(0, 0, 20, 20)], ring, 0.45)).toHaveLength(1);
  });

  test("the arcade's decks are laid as bridges: straight across, lean and slow", () => {
    const shape = arcade.shape(specimenRequest(planOf([220], 10, 1), ["220"]));
    const { moves } = print(shape);
    let along30 = 0;
    let along15 = 0;
    for (let i = 1; i < moves.count; i++) {
      if (moves.kind[i] !== MoveKind.bridge) continue;
      const dx = Math.abs(moves.x[i] - moves.x[i - 1]);
      const dy = Math.abs(moves.y[i] - moves.y[i - 1]);
      expect(Math.min(dx, dy)).toBeLessThan(0.01);
      if (dx > 25) along30++;
      if (dy > 12 && dy < 20) along15++;
      expect(moves.feedMmS[i]).toBeLessThanOrEqual(20);
      // Lean: a strand thinner than the nozzle is wide.
      expect(moves.filamentMm[i] / Math.hypot(dx, dy)).toBeLessThan(
        ((Math.PI * 0.4 * 0.4) / 4 / filamentAreaMm2(1.75)) * 0.85,
      );
    }
    // A deck of 3.4 mm: two walls on each side, and strands that touch between them.
    expect(along30).toBeGreaterThan(7);
    expect(along15).toBeGreaterThan(7);
  });
});

describe("walls and fill", () => {
  const around = { layerHeightMm: 0.2, odd: false, bottomMissing: false, topMissing: false };
  const square: Region = [rectangle(0, 0, 20, 20)];

  test("two closed walls, the inner one first, seam at the back left", () => {
    const { walls } = fillIsland({ ...around, island: square, below: [square], above: [square] }, process);
    expect(walls.map(({ kinds }) => kinds[0])).toEqual([MoveKind.innerWall, MoveKind.outerWall]);
    for (const { points, closed } of walls) {
      expect(closed).toBe(true);
      expect(points[0]).toEqual(points[points.length - 1]);
      expect(points[0].x).toBeLessThan(1.1);
      expect(points[0].y).toBeGreaterThan(18.9);
    }
  });

  test("sparse inside, solid where there is air above", () => {
    const inside = fillIsland({ ...around, island: square, below: [square], above: [square] }, process);
    expect(new Set(inside.fill.flat().flatMap(({ kinds }) => kinds))).toEqual(new Set([MoveKind.sparse]));
    const half: Region = [rectangle(0, 0, 10, 20)];
    const stepped = fillIsland({ ...around, island: square, below: [square], above: [half] }, process);
    const kinds = new Set(stepped.fill.flat().flatMap((stroke) => stroke.kinds));
    expect(kinds).toEqual(new Set([MoveKind.sparse, MoveKind.solid]));
    for (const { points, kinds: own } of stepped.fill.flat()) {
      // The half that is seen, and the strip on which the wall above begins.
      if (own[0] === MoveKind.solid) for (const { x } of points) expect(x).toBeGreaterThan(10 - 2.5 * 0.407 - 0.25);
    }
  });

  test("layers cross their fill", () => {
    const direction = (odd: boolean) => {
      const { fill } = fillIsland({ ...around, odd, island: square, below: [square], above: [square] }, process);
      const [a, b] = fill[0][0].points;
      return Math.sign((b.x - a.x) * (b.y - a.y));
    };
    expect(direction(false)).toBe(-direction(true));
  });

  test("thin posts have walls and no room for more", () => {
    const pin: Region = [circle(0, 0, 0.6)];
    const { walls, fill } = fillIsland({ ...around, island: pin, below: [pin], above: [pin] }, process);
    expect(walls.length).toBeGreaterThan(0);
    expect(fill).toEqual([]);
  });

  test("everything laid stays inside the island", () => {
    const shape: Region = union([rectangle(0, 0, 20, 6)], [rectangle(0, 0, 6, 20)], [circle(18, 18, 3)]);
    const { walls, fill } = fillIsland(
      { ...around, island: shape, below: [], above: [], bottomMissing: true },
      process,
    );
    const room = offset(shape, 0.01);
    for (const { points } of [...walls, ...fill.flat()])
      for (const { x, y } of points) expect(contains(room, x, y)).toBe(true);
  });
});

describe("laying", () => {
  const shape = arcade.shape(specimenRequest(planOf([220], 10, 1), ["220"]));

  test("the filament is drawn back across gaps and never twice", () => {
    const { moves } = print(shape);
    let drawn = true;
    let acrossGaps = 0;
    for (let i = 1; i < moves.count; i++) {
      if (moves.kind[i] === MoveKind.retract) {
        expect(drawn).toBe(false);
        drawn = true;
      } else if (moves.kind[i] === MoveKind.restore) {
        expect(drawn).toBe(true);
        drawn = false;
      } else if (laysMaterial(moves.kind[i])) expect(drawn).toBe(false);
      // Between the base and the deck the posts stand apart; elsewhere a long way may lie inside the piece.
      else if (
        moves.z[i] > 1.3 &&
        moves.z[i] < 9.5 &&
        Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]) > 20
      ) {
        acrossGaps++;
        expect(drawn).toBe(true);
      }
    }
    expect(drawn).toBe(true);
    expect(acrossGaps).toBeGreaterThan(40);
  });

  test("on a deck the nozzle goes round the corner instead of across the gap", () => {
    const { moves, layerStarts, tops } = print(shape);
    // The deck: three layers of one island, shaped like an L with a pin. Straight across its gap would be 20 retractions and more.
    let retracts = 0;
    for (let i = layerStarts[tops.length - 3]; i < moves.count; i++) if (moves.kind[i] === MoveKind.retract) retracts++;
    expect(retracts).toBeGreaterThanOrEqual(3);
    expect(retracts).toBeLessThanOrEqual(9);
  });

  test("short ways inside a post keep the filament", () => {
    const { moves, layerStarts } = print(block(20, 20, 4));
    let retracts = 0;
    for (let i = 0; i < moves.count; i++) if (moves.kind[i] === MoveKind.retract) retracts++;
    // Once a layer, for the step up, and a few round the first layer's skirt.
    expect(retracts).toBeLessThan(layerStarts.length + 4);
  });

  test("a lifted nozzle comes down before it lays", () => {
    const { moves, tops } = print(shape, { ...process, hopMm: 0.3 });
    for (let i = 0; i < moves.count; i++) {
      if (laysMaterial(moves.kind[i])) expect(moves.z[i]).toBeCloseTo(tops[moves.layer[i]], 4);
    }
    expect(Math.max(...moves.z)).toBeCloseTo(tops[tops.length - 1] + 0.3, 3);
  });

  test("layers that would be done too soon are laid slower, but not slower than the slowest", () => {
    const { moves, layerStarts } = print(block(5, 5, 4));
    const seconds = moveSeconds(moves, null, limits);
    for (let layer = 1; layer + 1 < layerStarts.length; layer++) {
      let time = 0;
      let slowest = Infinity;
      for (let i = layerStarts[layer]; i < layerStarts[layer + 1]; i++) {
        time += seconds[i];
        if (laysMaterial(moves.kind[i])) slowest = Math.min(slowest, moves.feedMmS[i]);
      }
      expect(slowest).toBeGreaterThanOrEqual(process.slowestMmS - 1e-4);
      if (slowest > process.slowestMmS + 0.01) expect(time).toBeGreaterThan(process.smallestLayerSeconds * 0.95);
    }
    const usual = print(block(40, 40, 1)).moves;
    expect(Math.max(...usual.feedMmS.filter((_, i) => usual.kind[i] === MoveKind.solid))).toBeCloseTo(
      process.solidMmS,
      3,
    );
  });

  test("materials that warp get a brim, others a skirt", () => {
    const asa = spools.find(({ material }) => material === "ASA")!;
    const own = processFor(ladle, asa, { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 });
    const skirts = (moves: { kind: Uint8Array }) => moves.kind.filter((kind) => kind === MoveKind.skirt).length;
    expect(own.brimRings).toBeGreaterThan(4);
    expect(skirts(print(block(20, 20, 1), own).moves)).toBeGreaterThan(skirts(print(block(20, 20, 1)).moves) * 4);
  });

  test("speeds stay within the hot end's flow", () => {
    for (const printer of printers) {
      const own = processFor(printer, saffron, { layerHeightMm: 0.3, firstLayerHeightMm: 0.3 });
      for (const speed of [own.outerWallMmS, own.innerWallMmS, own.solidMmS, own.sparseMmS]) {
        expect(speed * beadAreaMm2(own.beadWidthMm, 0.3)).toBeLessThanOrEqual(printer.highestFlowMm3S);
      }
    }
  });
});
