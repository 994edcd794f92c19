/** Draws on the piece in millimetres, seen from the front or the back; comes out as open vector graphics (SVG 1.1, W3C). */
import { plainNumber } from "../../units";
import { Noise } from "../noise";

export interface Place {
  x: number;
  z: number;
}

/** In the spool's own colour, lighter or darker than it, or what is behind the piece. */
export type Tone = "own" | "pale" | "dark" | "hole";

export class Pen {
  private readonly out: string[] = [];
  private readonly faces: string[] = [];

  /** @param topMm what lies there is drawn at the top @param layerMm height of a layer */
  constructor(
    private readonly colours: Record<Tone, string>,
    private readonly topMm: number,
    readonly layerMm: number,
    readonly noise: Noise,
  ) {}

  get elements(): string {
    return this.out.join("");
  }

  /** The faces once more, without a colour of their own. */
  get shaded(): string {
    return this.faces.join("");
  }

  line(from: Place, to: Place, widthMm: number, tone: Tone, opacity = 1): void {
    this.path(`M${this.at(from)}L${this.at(to)}`, widthMm, tone, opacity);
  }

  /** From one place to another, drawn towards a third (a quadratic curve). */
  curve(from: Place, towards: Place, to: Place, widthMm: number, tone: Tone): void {
    this.path(`M${this.at(from)}Q${this.at(towards)} ${this.at(to)}`, widthMm, tone, 1);
  }

  dot({ x, z }: Place, radiusMm: number, tone: Tone): void {
    this.out.push(
      `<circle cx="${say(x)}" cy="${say(this.topMm - z)}" r="${say(radiusMm)}" fill="${this.colours[tone]}"/>`,
    );
  }

  face(from: Place, to: Place, fill: string): void {
    const place = `x="${say(from.x)}" y="${say(this.topMm - to.z)}"`;
    const size = `width="${say(to.x - from.x)}" height="${say(to.z - from.z)}"`;
    this.out.push(`<rect ${place} ${size} fill="${fill}"/>`);
    this.faces.push(`<rect ${place} ${size}/>`);
  }

  text({ x, z }: Place, heightMm: number, text: string): void {
    const attributes = `x="${say(x)}" y="${say(this.topMm - z)}" font-size="${say(heightMm)}" fill="${this.colours.dark}"`;
    this.out.push(`<text ${attributes} font-family="monospace" text-anchor="end">${escaped(text)}</text>`);
  }

  private path(d: string, widthMm: number, tone: Tone, opacity: number): void {
    const see = opacity < 1 ? ` stroke-opacity="${say(opacity)}"` : "";
    this.out.push(`<path d="${d}" fill="none" stroke="${this.colours[tone]}" stroke-width="${say(widthMm)}"${see}/>`);
  }

  private at({ x, z }: Place): string {
    return `${say(x)} ${say(this.topMm - z)}`;
  }
}

const say = (mm: number) => plainNumber(mm, 2);

const escaped = (text: string) => text.replace(/&/g, "&amp;").replace(/</g, "&lt;");
