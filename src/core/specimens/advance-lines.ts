/**
 * Advance lines: flat on the bed, one line a value, each slow, fast, slow, with its number beside it. Ticks at the ends of the pattern
 * show where the speed changes.
 */
import { planHeightMm } from "../heightplan/plan";
import { Track } from "../printing/track";
import { numberOption } from "../options/option";
import { clamp, plainNumber } from "../units";
import { flatText } from "./flat-text";
import { Spot, Specimen, SpecimenRequest, PieceShape } from "./specimen";

const PITCH_MM = 5.5;
const LEAST_PITCH_MM = 4;
const LINE_MM = 90;
const SHORTEST_MM = 45;
const TEXT_MM = 3;
const TEXT_ROOM_MM = 16;

function shape({ plan, options, beadWidthMm, room }: SpecimenRequest): PieceShape {
  const values = plan.sideBySide?.values ?? [];
  const slow = numberOption(options, "slowMmS");
  const fast = numberOption(options, "fastMmS");
  const lineMm = clamp(room.widthMm - TEXT_ROOM_MM, SHORTEST_MM, LINE_MM);
  const pitch = clamp(room.depthMm / (values.length + 1), LEAST_PITCH_MM, PITCH_MM);
  const left = -(lineMm + TEXT_ROOM_MM) / 2;
  const right = left + lineMm;
  const changes = [left + lineMm * 0.25, left + lineMm * 0.75];
  const yOf = (i: number) => (i - (values.length - 1) / 2) * pitch;
  const spots: Spot[] = values.map((value, i) => ({ x: left + lineMm / 2, y: yOf(i), label: plainNumber(value, 3) }));
  const tracks: Track[] = [];
  values.forEach((_, i) => {
    const y = yOf(i);
    const points = [left, ...changes, right].map((x) => ({ x, y }));
    tracks.push({ points, widthMm: beadWidthMm, speedsMmS: [slow, fast, slow], spot: i });
    tracks.push(...flatText(spots[i].label, right + 3, y - TEXT_MM / 2, TEXT_MM, beadWidthMm, i));
  });
  const last = values.length - 1;
  for (const x of values.length > 0 ? changes : []) {
    for (const [y, spot] of [
      [yOf(0) - pitch * 0.4, 0],
      [yOf(last) + pitch * 0.4, last],
    ]) {
      const outward = spot === 0 ? -3 : 3;
      tracks.push({
        points: [
          { x, y },
          { x, y: y + outward },
        ],
        widthMm: beadWidthMm,
        spot,
      });
    }
  }
  const heightMm = planHeightMm(plan);
  return {
    heightMm,
    widthMm: lineMm + TEXT_ROOM_MM,
    depthMm: values.length * pitch + 8,
    solidAt: () => [],
    tracksAt: (zMm) => (zMm > 0 && zMm <= heightMm ? tracks : []),
    spots,
    drawing: [
      ...[...spots].reverse().map(({ label }) => `  --------======================--------  ${label}`),
      `  slow ${slow}, fast ${fast}, slow ${slow} mm/s; the line nearest to you is printed first`,
    ],
    legend: `The number beside each line is its value. Every line goes ${slow}, ${fast}, ${slow} mm/s; the ticks show where the speed changes.`,
    unlabelled: [],
  };
}

export const advanceLines: Specimen = { shape };
