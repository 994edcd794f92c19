import { codeOf } from "@/server/work/label";
import { networkAddress } from "@/server/work/address";
import { handle, json } from "@/server/http/respond";
import { Refused } from "@/server/refused";

const LONGEST_PATH = 300;

/** The address of a page for another device, and its QR code (ISO/IEC 18004) as rows of 0 and 1: ?path=/trials/3 */
export const GET = handle(
  (request) => {
    const path = new URL(request.url).searchParams.get("path") ?? "/";
    if (!path.startsWith("/") || path.startsWith("//") || path.length > LONGEST_PATH) {
      throw new Refused("invalid", "Say which page of this program: a path that begins with one slash.", {
        field: "path",
      });
    }
    const own = networkAddress();
    if (!own) return json({ address: null, code: null });
    const code = codeOf(own + path).map((row) => row.map((dark) => (dark ? "1" : "0")).join(""));
    return json({ address: own + path, code });
  },
  { who: "reader" },
);
