import { handle } from "@/server/http/respond";
import { Refused } from "@/server/refused";

const refuse = handle(
  () => {
    throw new Refused("missing", "There is nothing at this address. What there is stands in docs/api.md.");
  },
  { who: "reader" },
);

/** Whatever is no route of the interface. */
const nothing = (request: Request) => refuse(request, { params: Promise.resolve({}) });

export { nothing as GET, nothing as POST, nothing as PUT, nothing as DELETE, nothing as OPTIONS };
