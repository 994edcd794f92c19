/** The life of a link: every event in every place, as docs/architecture.md draws it. */
import { canSend, closedLife, Life, lifeAfter, LifeEvent } from "@/core/link/life";

const open: Life = { is: "open", halted: null };
const halted: Life = { is: "open", halted: "Error:halted" };
const opening: Life = { is: "opening" };
const lost: Life = { is: "lost", why: "cable" };
const halt: LifeEvent = { type: "halt", why: "Error:halted" };
const lose: LifeEvent = { type: "lose", why: "cable" };

const ways: [Life, LifeEvent, Life][] = [
  [closedLife, { type: "open" }, opening],
  [lost, { type: "open" }, opening],
  [opening, { type: "opened" }, open],
  [opening, { type: "close" }, closedLife],
  [opening, lose, lost],
  [open, halt, halted],
  [open, lose, lost],
  [open, { type: "close" }, closedLife],
  [halted, { type: "restart" }, open],
  [halted, lose, lost],
  [halted, { type: "close" }, closedLife],
];

test.each(ways)("%j, %j → %j", (before, event, after) => {
  expect(lifeAfter(before, event)).toEqual(after);
});

test("whatever does not fit changes nothing: the very same value comes back", () => {
  const events: LifeEvent[] = [
    { type: "open" },
    { type: "opened" },
    halt,
    { type: "restart" },
    lose,
    { type: "close" },
  ];
  for (const life of [closedLife, opening, open, halted, lost]) {
    for (const event of events) {
      const known = ways.some(([before, one]) => before === life && one.type === event.type);
      if (!known && !(life === halted && event.type === "halt")) expect(lifeAfter(life, event)).toBe(life);
    }
  }
});

test("lines can be sent to an open link that was not halted, and to none else", () => {
  expect([closedLife, opening, open, halted, lost].map(canSend)).toEqual([false, false, true, false, false]);
});
