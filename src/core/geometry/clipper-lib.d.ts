/** The part of clipper-lib that is used here; the package brings no types of its own. */
declare module "clipper-lib" {
  export interface IntPoint {
    X: number;
    Y: number;
  }
  export type Path = IntPoint[];
  export type Paths = Path[];

  export class Clipper {
    AddPaths(paths: Paths, polyType: number, closed: boolean): boolean;
    Execute(clipType: number, solution: Paths, subjectFill: number, clipFill: number): boolean;
  }
  export class ClipperOffset {
    constructor(miterLimit?: number, arcTolerance?: number);
    AddPaths(paths: Paths, joinType: number, endType: number): void;
    Execute(solution: Paths, delta: number): void;
  }
  const library: {
    Clipper: typeof Clipper;
    ClipperOffset: typeof ClipperOffset;
    Paths: new () => Paths;
    ClipType: { ctIntersection: number; ctUnion: number; ctDifference: number };
    PolyType: { ptSubject: number; ptClip: number };
    PolyFillType: { pftNonZero: number };
    JoinType: { jtMiter: number };
    EndType: { etClosedPolygon: number };
  };
  export default library;
}
