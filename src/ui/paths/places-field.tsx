"use client";
/** Places of a line or an outline as text: typed, or pasted from a table. What cannot be read is kept and said. */
import { useEffect, useState } from "react";
import { readPoints, sayPoints } from "@/core/sheets/points";
import type { Place } from "@/core/sheets/sheet";
import { TextArea } from "../common/text-field";

interface Props {
  name: string;
  points: readonly Place[];
  least?: number;
  onChange(points: Place[]): void;
}

export function PlacesField({ name, points, least = 2, onChange }: Props) {
  const said = sayPoints(points);
  const [text, setText] = useState(said);
  const read = readPoints(text, least);
  useEffect(() => {
    // Changed elsewhere (undone, say): what stands here follows.
    setText((now) => {
      const own = readPoints(now, least);
      return own.ok && sayPoints(own.value) === said ? now : said;
    });
  }, [said, least]);
  return (
    <div>
      <TextArea
        aria-label={name}
        className="mono"
        mostRows={8}
        leastRows={2}
        value={text}
        wrong={!read.ok}
        onChange={(next) => {
          setText(next);
          const places = readPoints(next, least);
          if (places.ok) onChange(places.value);
        }}
      />
      {!read.ok && <p className="field-error">{read.message}</p>}
    </div>
  );
}
