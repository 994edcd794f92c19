import { laysMaterial } from "../../gcode/moves";
import { plainNumber } from "../../units";
import { rowName, SheetCheck } from "./check";

/** Strokes whose height is below the bed: the nozzle would go into it. */
export const belowBed: SheetCheck = {
  key: "below-bed",
  passes: "Nothing is laid below the bed.",
  run({ laid: { moves, row, fields } }) {
    let lowest = -1;
    for (let i = 0; i < moves.count; i++)
      if (laysMaterial(moves.kind[i]) && moves.z[i] < 0 && (lowest < 0 || moves.z[i] < moves.z[lowest])) lowest = i;
    if (lowest < 0) return [];
    return [
      {
        check: "below-bed",
        severity: "stop",
        where: rowName(fields[row[lowest]]),
        message: `A stroke runs ${plainNumber(-moves.z[lowest], 2)} mm below the bed: its height is to be above 0.`,
      },
    ];
  },
};
