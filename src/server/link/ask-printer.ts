/** Asking a printer that is not on the shelf yet what it is: linked for a moment, asked for identity and values, and let go. */
import { everyValueQuestion, ToldFigure, toldFigures } from "@/core/firmware/on-the-shelf";
import { Identity, readIdentity } from "@/core/firmware/reports/identity";
import { readValues, ValueEntry } from "@/core/firmware/values/reading";
import { placeOf, Way } from "@/core/link/way";
import { Refused } from "../refused";
import { hub, isHeld } from "./hub";
import { refuseOwnPort } from "./own-port";
import { LinkSession } from "./session";
import { SerialTransport } from "./transports/serial";
import { TcpTransport } from "./transports/tcp";

/** A printer that is asked for the first time is given so long for one answer, beyond what the line itself takes. */
const ANSWER_WITHIN_MS = 4000;
/** Many boards start anew when their port is opened and say nothing meanwhile (common practice): the first line is asked so often. */
const FIRST_TRIES = 3;

export interface Asked {
  identity: Identity;
  /** Figures of its record, with the lines that told them. */
  told: ToldFigure[];
  /** All values it reported, steps among them. */
  values: ValueEntry[];
}

/**
 * What the printer at the end of a way says of itself. Sends M115 and the questions for values, and nothing else. Refused while a
 * linked printer holds the way, until an address in the network is confirmed, and if nobody answers.
 */
export async function askPrinter(way: Way, confirmed: boolean): Promise<Asked> {
  const place = placeOf(way);
  if (way.kind === "simulated" || place === null)
    throw new Refused("invalid", "A simulated printer is made from its record; there is nothing to ask it.", {
      field: "transport",
    });
  const { asked, links } = hub();
  const holder = [...links.values()].find((link) => link.place === place && isHeld(link));
  if (holder || asked.has(place))
    throw new Refused("conflict", `${holder?.printer.name ?? "Another question"} holds ${place} already.`, {
      field: "transport",
    });
  if (way.kind === "tcp" && !confirmed)
    throw new Refused("conflict", `Is a printer at ${place}? M115 and a question for its values are sent there.`, {
      field: "confirmed",
    });
  asked.add(place);
  const transport =
    way.kind === "serial" ? new SerialTransport(way.path, way.baud) : new TcpTransport(way.host, way.port);
  const session = new LinkSession(transport, { onEvent() {}, onTemperatures() {}, onChange() {} });
  try {
    await session
      .open(async () => {
        if (way.kind === "tcp") await refuseOwnPort(way.host, way.port);
      })
      .catch((error: unknown) => {
        throw new Refused("unreachable", error instanceof Error ? error.message : `${place} cannot be opened.`);
      });
    return await interview(session, place);
  } finally {
    await session.close();
    asked.delete(place);
  }
}

async function interview(session: LinkSession, place: string): Promise<Asked> {
  const ask = (line: string) => session.exchange(line, "values", { withinMs: ANSWER_WITHIN_MS });
  let first = await ask("M115");
  for (let tries = 1; first.outcome === "no answer" && tries < FIRST_TRIES; tries++) first = await ask("M115");
  if (first.outcome !== "taken")
    throw new Refused(
      "unreachable",
      `Nothing answers at ${place}. Is the printer on, and is it the right port and speed?`,
      { field: "transport" },
    );
  const answers: string[] = [];
  for (const questions of everyValueQuestion) {
    for (const question of questions) answers.push(...(await ask(question)).answers);
    if (readValues(answers).entries.length > 0) break;
  }
  const identity = readIdentity(first.answers);
  return { identity, told: toldFigures(identity, answers), values: readValues(answers).entries };
}
