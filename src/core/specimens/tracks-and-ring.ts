/** Single tracks of given widths with their width beside them, and behind them a ring of one wall; everything there to be measured. */
import { planHeightMm } from "../heightplan/plan";
import { Track } from "../printing/track";
import { numberOption } from "../options/option";
import { clamp, HEIGHT_TOLERANCE_MM, plainNumber } from "../units";
import { flatText } from "./flat-text";
import { trackWidthsMm } from "./track-widths";
import { Spot, Specimen, SpecimenRequest, PieceShape } from "./specimen";

const TRACK_MM = 70;
const SHORTEST_MM = 35;
const PITCH_MM = 5;
/** The lowest layer tells how far the bed is off, those above it what is fed: both are seen. */
const TRACK_LAYERS = 5;
const TEXT_MM = 3;
const TEXT_ROOM_MM = 14;
const GAP_MM = 8;
const SMALLEST_RING_MM = 5;

function shape({ plan, options, beadWidthMm, layerHeightMm, firstLayerHeightMm, room }: SpecimenRequest): PieceShape {
  const widths = trackWidthsMm(
    Math.round(numberOption(options, "tracks")),
    numberOption(options, "narrowMm"),
    numberOption(options, "wideMm"),
  );
  const lineMm = clamp(room.widthMm - TEXT_ROOM_MM, SHORTEST_MM, TRACK_MM);
  const tracksDepth = widths.length * PITCH_MM;
  // The ring stands behind the tracks: it is held to what is left of the bed both ways.
  const ringRoomMm = Math.min(room.widthMm, room.depthMm - tracksDepth - GAP_MM);
  const askedRingMm = numberOption(options, "ringMm");
  const ringMm = askedRingMm > 0 ? Math.max(SMALLEST_RING_MM, Math.min(askedRingMm, ringRoomMm)) : 0;
  const depthMm = tracksDepth + (ringMm > 0 ? GAP_MM + ringMm : 0);
  const left = -(lineMm + TEXT_ROOM_MM) / 2;
  const front = -depthMm / 2;
  const spots: Spot[] = [];
  const tracks: Track[] = [];
  const numbers: Track[] = [];
  widths.forEach((widthMm, i) => {
    const y = front + (i + 0.5) * PITCH_MM;
    const label = plainNumber(widthMm, 2);
    spots.push({ x: left + lineMm / 2, y, label: `${label} mm` });
    tracks.push({
      points: [
        { x: left, y },
        { x: left + lineMm, y },
      ],
      widthMm,
    });
    numbers.push(...flatText(label, left + lineMm + 3, y - TEXT_MM / 2, TEXT_MM, beadWidthMm));
  });
  const ring: Track[] = [];
  if (ringMm > 0) {
    const corners = 96;
    const y = front + tracksDepth + GAP_MM + ringMm / 2;
    // From the back left round to it again.
    const points = Array.from({ length: corners + 1 }, (_, i) => {
      const angle = (135 * Math.PI) / 180 + ((i % corners) * 2 * Math.PI) / corners;
      return { x: (ringMm / 2) * Math.cos(angle), y: y + (ringMm / 2) * Math.sin(angle) };
    });
    ring.push({ points, widthMm: beadWidthMm });
    spots.push({ x: 0, y, label: `ring ${plainNumber(ringMm, 1)} mm` });
  }
  const heightMm = planHeightMm(plan);
  const tracksTopMm = firstLayerHeightMm + (TRACK_LAYERS - 1) * layerHeightMm;
  return {
    heightMm,
    widthMm: lineMm + TEXT_ROOM_MM,
    depthMm,
    solidAt: () => [],
    tracksAt: (zMm) => {
      if (zMm <= 0 || zMm > heightMm) return [];
      if (zMm <= firstLayerHeightMm) return [...tracks, ...numbers, ...ring];
      return zMm <= tracksTopMm + HEIGHT_TOLERANCE_MM ? [...tracks, ...ring] : ring;
    },
    spots,
    drawing: [
      ...(ringMm > 0
        ? [`     (  )   ring ${plainNumber(ringMm, 1)} mm across, wall ${plainNumber(beadWidthMm, 3)} mm`]
        : []),
      ...[...widths].reverse().map((width) => `  ----------------  ${plainNumber(width, 2)} mm wide`),
      `  tracks ${plainNumber(tracksTopMm, 2)} mm high, the narrowest nearest to you`,
    ],
    legend: `The number beside each track is the width it was asked for. Measure it at the top, ${plainNumber(tracksTopMm, 2)} mm up: a foot wider than that tells of a bed too close, not of the feed. The ring's wall was asked for ${plainNumber(beadWidthMm, 3)} mm thick.`,
    unlabelled: [],
  };
}

export const tracksAndRing: Specimen = { shape };
