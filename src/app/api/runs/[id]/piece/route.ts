import { Side, sides } from "@/core/reading/photo";
import { handle, json, pathId } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { drawnPiece, runOf, storedPiece } from "@/server/work/runs";

/** What a simulated printer made: the state of each band, noise aside; with `?side=front|back` a drawing of it (SVG). */
export const GET = handle(
  async (request, params) => {
    const run = runOf(pathId(params, "run"));
    const side = new URL(request.url).searchParams.get("side");
    if (side === null) {
      const { units, rippleMm } = storedPiece(run);
      return json({ bands: units.map((unit, i) => ({ ...unit, rippleMm: rippleMm[i] })) });
    }
    if (!(sides as readonly string[]).includes(side)) {
      throw new Refused("invalid", `A piece is seen from the ${sides.join(" or the ")}.`, { field: "side" });
    }
    const { svg } = await drawnPiece(run, side as Side, request.signal);
    return new Response(svg, {
      headers: { "Content-Type": "image/svg+xml", "Cache-Control": "private, max-age=3600" },
    });
  },
  { who: "reader" },
);
