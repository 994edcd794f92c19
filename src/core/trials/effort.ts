/** What the first rounds of all kinds take for a printer and a spool: time and material, before anything is printed. */
import { filamentMassG } from "../material/bead";
import { usualLayerMm } from "../printing/process";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { trialKindFor, TrialKindKey, trialKindKeys } from ".";
import { BuiltTrial, buildTrial } from "./build";
import { firstRound } from "./first-round";
import type { RoundRequest } from "./kind";
import type { Thumbnail } from "../laid/thumbnail";
import type { SheetPieces } from "./sheet-piece";
import { thumbnailOf } from "./thumbnail";
import type { Trial, TrialInput } from "./trial";

export interface Effort {
  kind: TrialKindKey;
  /** Without heating, s. */
  seconds: number;
  massG: number;
}

/** What a first round starts from beside printer and spool: where it asks follows from it. */
export type Beside = Pick<RoundRequest, "kept" | "carried" | "expected">;

/** The piece of a kind's first round: how it looks, and what it takes. */
export interface FirstPiece extends Effort {
  /** mm */
  heightMm: number;
  thumbnail: Thumbnail;
}

/** The piece of every kind's first round, in the order of work, each built as it would be printed. */
export function firstPieces(printer: Printer, spool: Spool, beside: Beside): FirstPiece[] {
  return trialKindKeys.map((kind) => {
    const input: TrialInput = { trial: firstTrialOf(kind, printer, spool, beside), printer, spool, kept: beside.kept };
    const built = buildTrial(input);
    const thumbnail = thumbnailOf(input, built);
    return { kind, ...figuresOf(input, built), heightMm: built.slices.at(-1)?.zTopMm ?? 0, thumbnail };
  });
}

/** Time and material of a kind's first round. */
export function effortOf(kind: TrialKindKey, printer: Printer, spool: Spool, beside: Beside): Effort {
  const trial = firstTrialOf(kind, printer, spool, beside);
  return { kind, ...effortOfTrial({ trial, printer, spool, kept: beside.kept }) };
}

function firstTrialOf(kind: TrialKindKey, printer: Printer, spool: Spool, beside: Beside): Trial {
  const layerMm = usualLayerMm(printer);
  const heights = { layerHeightMm: layerMm, firstLayerHeightMm: layerMm };
  const round = firstRound(kind, { printer, spool, ...beside, options: {}, ...heights });
  return {
    id: 1,
    kind,
    name: trialKindFor(kind).question(spool, {}),
    printerId: 1,
    spoolId: 1,
    tool: 0,
    options: {},
    createdAt: "",
    updatedAt: "",
    ...heights,
    plan: round.plan,
    fixed: round.fixed,
  };
}

/** Time and material of any trial, built as it would be printed. */
export function effortOfTrial(input: TrialInput, pieces?: SheetPieces): Omit<Effort, "kind"> {
  return figuresOf(input, buildTrial(input, pieces));
}

function figuresOf({ spool }: TrialInput, { figures }: BuiltTrial): Omit<Effort, "kind"> {
  const { diameterMm, densityGCm3 } = spool;
  return { seconds: figures.seconds, massG: filamentMassG(figures.filamentMm, diameterMm, densityGCm3) };
}
