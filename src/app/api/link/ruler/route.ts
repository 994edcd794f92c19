import { readRuler } from "@/core/simulator/ruler";
import { spools } from "@/server/db/spools";
import { printerOfQuery } from "@/server/http/link";
import { handle, json } from "@/server/http/respond";
import { simulatorOf } from "@/server/link/hub";

/** What ruler and calliper would show at the simulated printer, as its clock stands. Each look has its own noise. */
export const GET = handle(
  (request) => {
    const query = new URL(request.url).searchParams;
    const host = simulatorOf(printerOfQuery(request));
    const figure = (name: string, otherwise: number) => {
      const value = Number(query.get(name));
      return Number.isFinite(value) && value > 0 ? value : otherwise;
    };
    return json(
      readRuler(host.machine, Math.floor(Math.random() * 0xffffffff), {
        wallMm: figure("wallMm", 0.45),
        flowPercent: figure("flowPercent", 100),
        spool: spools.get(figure("spoolId", 0)),
      }),
    );
  },
  { who: "reader" },
);
