import { LabelSize, labelSizes, labelSvg } from "@/core/values/label";
import { printers } from "@/server/db/printers";
import { spools } from "@/server/db/spools";
import { disposition } from "@/server/http/download";
import { handle, pairOf } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { anyAddress } from "@/server/work/address";
import { labelFor, labelPdf } from "@/server/work/label";

/** The label of a spool: ?printerId=1&spoolId=1&size=62x29&as=svg, pdf, or sheet (a page of A4 full of them). */
export const GET = handle(
  async (request) => {
    const { searchParams } = new URL(request.url);
    const { printerId, spoolId } = pairOf(request);
    const size = searchParams.get("size") ?? labelSizes[0];
    if (!(labelSizes as readonly string[]).includes(size)) {
      throw new Refused("invalid", `A label is ${labelSizes.join(", ")} mm.`, { field: "size" });
    }
    const as = searchParams.get("as") ?? "svg";
    if (!["svg", "pdf", "sheet"].includes(as)) {
      throw new Refused("invalid", "A label comes as svg, pdf or sheet.", { field: "as" });
    }
    if (as === "sheet" && size !== "70x37") {
      throw new Refused("invalid", "A sheet of A4 holds labels of 70 × 37 mm: say size=70x37.", { field: "size" });
    }
    const label = labelFor(printerId, spoolId, size as LabelSize, anyAddress(request));
    if (as === "svg") {
      return new Response(labelSvg(label), {
        headers: { "Content-Type": "image/svg+xml", "Cache-Control": "no-store" },
      });
    }
    const name = `${spools.get(spoolId)!.name} on ${printers.get(printerId)!.name} label.pdf`;
    return new Response(Buffer.from(await labelPdf(label, as === "sheet", request.signal)), {
      headers: {
        "Content-Type": "application/pdf",
        "Content-Disposition": disposition(name),
        "Cache-Control": "no-store",
      },
    });
  },
  { who: "reader" },
);
