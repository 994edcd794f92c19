/** The life of a link: a value, and what happens to it. Everything that may be done to a printer follows from where in it the link is. */

export type Life =
  | { is: "closed" }
  /** The way is being opened; nothing can be sent yet. */
  | { is: "opening" }
  /** `halted`: the printer has stopped and takes nothing until it is reset; null while it talks. */
  | { is: "open"; halted: string | null }
  | { is: "lost"; why: string };

export type LifeEvent =
  | { type: "open" }
  | { type: "opened" }
  | { type: "halt"; why: string }
  | { type: "restart" }
  | { type: "lose"; why: string }
  | { type: "close" };

export const closedLife: Life = { is: "closed" };

/** What becomes of a link. An event that does not fit where it is changes nothing: the same value comes back. */
export function lifeAfter(life: Life, event: LifeEvent): Life {
  switch (event.type) {
    case "open":
      return life.is === "closed" || life.is === "lost" ? { is: "opening" } : life;
    case "opened":
      return life.is === "opening" ? { is: "open", halted: null } : life;
    case "halt":
      return life.is === "open" ? { is: "open", halted: event.why } : life;
    case "restart":
      return life.is === "open" && life.halted !== null ? { is: "open", halted: null } : life;
    case "lose":
      return life.is === "open" || life.is === "opening" ? { is: "lost", why: event.why } : life;
    case "close":
      return life.is === "open" || life.is === "opening" ? closedLife : life;
  }
}

/** Whether lines can be sent. */
export function canSend(life: Life): boolean {
  return life.is === "open" && life.halted === null;
}
