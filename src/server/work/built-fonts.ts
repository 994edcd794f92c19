/** Where the built pages' fonts are: those of the first view are asked for before the styles that name them have come. */
import { readdirSync } from "node:fs";
import { join } from "node:path";

/** Fonts that any page shows at once; other scripts and weights come when they are needed. */
const wanted = ["figtree-latin-wght", "bricolage-grotesque-latin-wght", "jetbrains-mono-latin-wght"];

let found: string[] | null = null;

/** Their addresses; none where nothing was built (hot reload). */
export function builtFonts(): string[] {
  return (found ??= look());
}

function look(): string[] {
  try {
    const files = readdirSync(join(process.cwd(), ".next", "static", "media"));
    return wanted.flatMap((name) => {
      const file = files.find((one) => one.startsWith(`${name}-normal.`));
      return file ? [`/_next/static/media/${file}`] : [];
    });
  } catch {
    return [];
  }
}
