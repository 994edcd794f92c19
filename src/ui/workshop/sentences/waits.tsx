"use client";
import type { Sentence } from "./sentence";

export const waitsSentence: Sentence<"waits"> = {
  begin: "Waiting for heat",
  words: "wait heat M109 M190 stand",
  short: () => "waits",
  fresh: () => ({ kind: "waits", inside: true, order: false }),
  blanks: ({ edit, onChange }) => (
    <>
      Waiting for heat:
      <label>
        <input
          type="checkbox"
          checked={edit.inside}
          onChange={({ target }) => onChange({ ...edit, inside: target.checked })}
        />{" "}
        not inside the print
      </label>
      <label>
        <input
          type="checkbox"
          checked={edit.order}
          onChange={({ target }) => onChange({ ...edit, order: target.checked })}
        />{" "}
        at the start the bed first, the nozzle last
      </label>
    </>
  ),
};
