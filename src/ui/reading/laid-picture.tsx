"use client";
/** A picture of the piece laid on heights: as a column of the log, and as a strip of one band, larger. */
import { layMatrix } from "@/core/reading/photo";
import { GAP_PX, LogColumn } from "../heightlog/column";
import type { LogScale } from "../heightlog/scale";
import { Picture, usePlace } from "./pictures";
import styles from "./reading.module.css";

interface Heights {
  /** How high the piece on the picture came, mm. */
  topMm: number;
}

interface Frame {
  picture: Picture;
  alt: string;
  widthPx: number;
  heightPx: number;
  /** Where the bed and the top of the piece come to, px down. */
  bedY: number;
  topY: number;
  /** So wide is what has to be seen of a photo, px; all of it, if left out. */
  pieceWidthPx?: number;
}

function Laid({ picture, alt, widthPx, heightPx, bedY, topY, pieceWidthPx = 0 }: Frame) {
  const place = usePlace(picture);
  const x = widthPx / 2;
  const [a, b, c, d, e, f] = layMatrix(place, { x, bottom: bedY, top: topY });
  // Wide low pieces are pressed together across rather than cut off. A drawing is the piece alone; of a photo its middle.
  const shownPx = picture.photo ? pieceWidthPx : picture.widthPx * Math.hypot(a, b);
  const across = Math.min(1, widthPx / Math.max(1, shownPx));
  const matrix = [a * across, b, c * across, d, x + (e - x) * across, f];
  return (
    <div className={styles.laid} style={{ width: widthPx, height: heightPx }}>
      <img src={picture.url} alt={alt} style={{ transform: `matrix(${matrix.join()})` }} draggable={false} />
    </div>
  );
}

/** Round the piece there is some air on a photo. */
const AIR = 1.2;

/** The picture as a column: every band of it stands beside its value. */
export function pictureColumn(
  picture: Picture,
  widthPx: number,
  { topMm, widthMm }: Heights & { widthMm: number },
): LogColumn {
  return {
    title: picture.label,
    widthPx,
    hasGround: true,
    drawing: ({ scale }: { scale: LogScale }) => (
      <div className={styles.drawing}>
        <Laid
          picture={picture}
          alt={`${picture.label}, bottom to top`}
          widthPx={widthPx - GAP_PX}
          heightPx={scale.heightPx}
          bedY={scale.y(0)}
          topY={scale.y(topMm)}
          pieceWidthPx={widthMm * AIR * scale.pxPerMm}
        />
      </div>
    ),
  };
}

interface Strip extends Heights {
  picture: Picture;
  label: string;
  fromMm: number;
  toMm: number;
  widthPx: number;
  /** No strip is higher, px. */
  mostPx: number;
}

/** So much more than the band is shown below and above it. */
const AROUND = 0.12;

/** One band of the picture, as large as its room allows. */
export function BandStrip({ picture, label, fromMm, toMm, topMm, widthPx, mostPx }: Strip) {
  const { bottom, top } = usePlace(picture);
  const picturePxPerMm = Math.hypot(top[0] - bottom[0], top[1] - bottom[1]) / topMm;
  const shownMm = (toMm - fromMm) * (1 + 2 * AROUND);
  const pxPerMm = Math.min(widthPx / (picture.widthPx / picturePxPerMm), mostPx / shownMm);
  const upperMm = toMm + (toMm - fromMm) * AROUND;
  return (
    <figure className={styles.strip}>
      <Laid
        picture={picture}
        alt={`${label} on ${picture.label}`}
        widthPx={widthPx}
        heightPx={shownMm * pxPerMm}
        bedY={upperMm * pxPerMm}
        topY={(upperMm - topMm) * pxPerMm}
      />
      <figcaption className="mono">{label}</figcaption>
    </figure>
  );
}
