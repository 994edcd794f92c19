/** The numbered window: the behaviour documented in docs/architecture.md, "Talking to a printer"; no clock runs here. */
import fc from "fast-check";
import * as w from "@/core/link/window";

/** Sends `count` fresh lines and takes all but the last `open` of them. */
function after(count: number, open = 0): w.LineWindow {
  let window = w.freshWindow;
  for (let i = 0; i <= count; i++) {
    window = w.withSent(window, w.lineDue(window) ?? w.numbered(window, `G1 X${i}`));
    if (i <= count - open) ({ window } = w.withTaken(window));
  }
  return window;
}

const asked = (window: w.LineWindow, number: number) => {
  const answer = w.withAsked(window, number);
  if ("broken" in answer) throw new Error(answer.broken);
  return answer;
};

test("a stream begins with the printer's counter, and numbers its lines from 1", () => {
  expect(w.lineDue(w.freshWindow)).toEqual({ number: 0, text: "M110 N0" });
  const window = after(3);
  expect(window.kept.map(({ number }) => number)).toEqual([0, 1, 2, 3]);
  expect(w.numbered(window, "G28")).toEqual({ number: 4, text: "G28" });
});

test("a line asked for again is due again, and those before it count as taken", () => {
  const answer = asked(after(5, 2), 5);
  expect(answer.lines).toEqual(["G1 X4"]);
  expect(w.lineDue(answer.window)).toEqual({ number: 5, text: "G1 X5" });
});

test("asking for the number behind the last means that it was taken", () => {
  const answer = asked(after(5, 1), 6);
  expect(answer.lines).toEqual(["G1 X5"]);
  expect(w.lineDue(answer.window)).toBeNull();
});

test("a damaged first line of a second job is sent again, whatever the old count was", () => {
  const first = w.withSent(w.freshWindow, w.lineDue(w.freshWindow)!);
  const answer = asked(first, 5);
  expect(w.lineDue(answer.window)).toEqual({ number: 0, text: "M110 N0" });
  // Asked for line 1 the counter is set: the same line must not go out for ever.
  expect(w.lineDue(asked(first, 1).window)).toBeNull();
});

test("numbers begin anew before they grow too long, and a question across that place is understood", () => {
  let window = after(2);
  window = { ...window, kept: window.kept.map((line, i) => ({ ...line, number: w.HIGHEST_NUMBER - 2 + i })) };
  const due = w.lineDue(window)!;
  expect(due).toEqual({ number: w.HIGHEST_NUMBER + 1, text: "M110 N0" });
  const sent = w.withSent(window, due);
  expect(w.lineDue(asked(sent, w.HIGHEST_NUMBER + 1).window)).toEqual(due);
  const { window: counted } = w.withTaken(sent);
  expect(w.numbered(counted, "G28")).toEqual({ number: 1, text: "G28" });
});

test("somebody else's M110 is followed by one of ours", () => {
  const window = w.withForeignCount(after(7));
  expect(w.lineDue(window)).toEqual({ number: 8, text: "M110 N0" });
});

test("what was never sent, or too long ago, cannot be asked for", () => {
  expect(w.withAsked(after(5), 9)).toEqual({ broken: expect.stringMatching(/line 9, which was not among the last/) });
  expect(w.withAsked(after(100), 20)).toEqual({ broken: expect.stringMatching(/line 20, which was not/) });
});

test("a storm ends: so many questions without anything taken, and no more", () => {
  let window = after(5, 1);
  for (let i = 0; i < w.MOST_ASKS; i++) window = asked(window, 5).window;
  expect(w.withAsked(window, 5)).toEqual({ broken: expect.stringMatching(/again and again/) });
});

test("every line counts as taken once and in order, whatever is asked for, lost or doubled", () => {
  fc.assert(
    fc.property(fc.array(fc.nat(9), { maxLength: 300 }), (draws) => {
      let window = w.freshWindow;
      let inFlight: w.SentLine | null = null;
      // The printer: its own counter, and what it really took.
      let counter = 41;
      const printed: string[] = [];
      const counted: string[] = [];
      let next = 1;
      for (const draw of draws) {
        inFlight = w.lineDue(window) ?? w.numbered(window, `line ${next++}`);
        window = w.withSent(window, inFlight);
        const { number, text } = inFlight;
        const arrives = draw >= 2;
        const fits = arrives && (text === "M110 N0" || number === counter + 1);
        if (fits) {
          counter = text === "M110 N0" ? 0 : number;
          if (text !== "M110 N0") printed.push(text);
        }
        const answerLost = draw === 2 || draw === 3;
        const answer = fits && !answerLost ? w.withTaken(window) : w.withAsked(window, counter + 1);
        if ("broken" in answer) return;
        window = answer.window;
        counted.push(...answer.lines);
      }
      expect(counted).toEqual(printed);
      expect(printed).toEqual(printed.map((_, i) => `line ${i + 1}`));
    }),
  );
});
