"use client";
/** A piece drawn small: its bands in the colours of their values, what is farther back paler. */
import { Thumbnail, ThumbnailBand, ThumbnailPart, THUMBNAIL_SHADES } from "@/core/laid/thumbnail";
import { useScheme } from "../frame/scheme";
import { mixColours, palettes } from "../theme/tokens";
import { valueColours } from "../theme/value-colours";

/** A flat piece lies on the ground: its depth is drawn this much shorter. */
const LYING = 0.45;
/** How pale the foremost and the farthest are. */
const PALE = { least: 0.06, most: 0.42 };

/** Height of the drawing in millimetres of the piece's own width. */
export const drawnHeightMm = ({ seenFrom, heightMm }: Thumbnail) => heightMm * (seenFrom === "above" ? LYING : 1);

interface Props {
  picture: Thumbnail;
  pxPerMm: number;
  /** A flat piece is drawn as it lies on the ground. */
  lies?: boolean;
  /** The value that won: its band is marked at its left. */
  winner?: number | null;
  /** What is to be seen, for those who do not see it; without it the picture says nothing that does not stand beside it. */
  label?: string;
}

/** Room for the mark of a winner, px. */
const MARK_PX = 7;

export function PiecePicture({ picture, pxPerMm, lies = false, winner = null, label }: Props) {
  const { scheme } = useScheme();
  const palette = palettes[scheme];
  const { widthMm, heightMm, parts, bands } = picture;
  const colours = valueColours(bands.map(({ value }) => value ?? undefined));
  const colourOf = ({ band, shade, raised }: ThumbnailPart) => {
    if (raised) return palette.raisedMark;
    const pale = Math.min(PALE.most, PALE.least + (shade / THUMBNAIL_SHADES) * 0.6);
    return mixColours(band < 0 ? palette.base : colours[band], palette.surface, pale);
  };
  const shownMm = lies ? drawnHeightMm(picture) : heightMm;
  const won = winner === null || picture.seenFrom === "above" ? undefined : nearestBand(bands, winner);
  const markMm = won ? MARK_PX / pxPerMm : 0;
  return (
    <svg
      width={(widthMm + markMm) * pxPerMm}
      height={shownMm * pxPerMm}
      viewBox={`${-markMm} 0 ${widthMm + markMm} ${shownMm}`}
      role={label ? "img" : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
      style={{ display: "block" }}
    >
      <g transform={lies ? `scale(1 ${shownMm / heightMm})` : undefined}>
        {parts.map((part, i) =>
          part.strokeMm === undefined ? (
            <path key={i} d={part.path} fill={colourOf(part)} fillRule="evenodd" />
          ) : (
            <path key={i} d={part.path} fill="none" stroke={colourOf(part)} strokeWidth={part.strokeMm} />
          ),
        )}
        {won && <path d={markPath(heightMm - (won.fromMm + won.toMm) / 2, markMm)} fill={palette.ink} />}
      </g>
    </svg>
  );
}

/** The band whose value is nearest; none where the value lies beyond all that the piece tries. */
function nearestBand(bands: readonly ThumbnailBand[], value: number): ThumbnailBand | undefined {
  const tried = bands.flatMap((band) => (band.value === null ? [] : [{ band, value: band.value }]));
  const isTried = tried.some((one) => one.value <= value) && tried.some((one) => one.value >= value);
  if (!isTried) return undefined;
  return tried.reduce((best, one) => (Math.abs(one.value - value) < Math.abs(best.value - value) ? one : best)).band;
}

/** A triangle at the left that points at a height. */
const markPath = (yMm: number, sizeMm: number) =>
  `M${-sizeMm} ${yMm - sizeMm * 0.55}L${-sizeMm * 0.25} ${yMm}L${-sizeMm} ${yMm + sizeMm * 0.55}z`;
