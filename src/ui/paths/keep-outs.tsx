"use client";
/** Places that nothing is laid in. */
import { useState } from "react";
import type { Expr, KeepOut, Sheet } from "@/core/sheets/sheet";
import { Choice } from "../common/choice";
import { Toggle } from "../common/toggle";
import { FormulaField } from "./formula-field";
import outline from "./outline.module.css";
import { PlacesField } from "./places-field";
import { exprAt, RowField, withExpr } from "./row-kinds";
import type { Wrong } from "./sheet-context";

const centre: RowField[] = [
  { path: "centre.0", label: "centre X" },
  { path: "centre.1", label: "centre Y" },
];
const heights: RowField[] = [
  { path: "fromMm", label: "from z", isOptional: true },
  { path: "toMm", label: "to z", isOptional: true },
];

const shapes: Record<KeepOut["shape"], { fields: RowField[]; fresh: Omit<KeepOut, "shape"> }> = {
  circle: {
    fields: [...centre, { path: "radiusMm", label: "radius" }],
    fresh: { centre: ["110", "110"], radiusMm: "4" },
  },
  rectangle: {
    fields: [...centre, { path: "widthMm", label: "wide" }, { path: "depthMm", label: "deep" }],
    fresh: { centre: ["110", "110"], widthMm: "8", depthMm: "8" },
  },
  polygon: {
    fields: [],
    fresh: {
      points: [
        ["105", "105"],
        ["115", "105"],
        ["110", "115"],
      ],
    },
  },
};
const options = (Object.keys(shapes) as KeepOut["shape"][]).map((value) => ({ value, label: value }));

interface Props {
  sheet: Sheet;
  wrong: Wrong | null;
  onChange(keepOut: KeepOut[], gesture?: string): void;
}

export function KeepOuts({ sheet, wrong, onChange }: Props) {
  const { keepOut } = sheet;
  const [open, setOpen] = useState<number | null>(null);
  const put = (at: number, one: KeepOut, gesture?: string) =>
    onChange(
      keepOut.map((now, i) => (i === at ? one : now)),
      gesture,
    );
  return (
    <ol className={outline.outline} aria-label="Kept out">
      {keepOut.map((one, i) => (
        <li key={i}>
          <KeepOutRow
            one={one}
            index={i}
            sheet={sheet}
            wrong={wrong?.field.startsWith(`keepOut.${i}.`) ? wrong : null}
            isOpen={open === i}
            onOpen={() => setOpen(open === i ? null : i)}
            onPut={(next, gesture) => put(i, next, gesture)}
            onRemove={() => {
              setOpen(null);
              onChange(keepOut.filter((_, n) => n !== i));
            }}
          />
        </li>
      ))}
      <li>
        <Choice
          label="Keep something out"
          small
          value={null}
          hint="+ keep out …"
          options={options}
          onChange={(shape) => {
            setOpen(keepOut.length);
            onChange([...keepOut, { shape, ...shapes[shape].fresh }]);
          }}
        />
      </li>
    </ol>
  );
}

interface RowProps {
  one: KeepOut;
  index: number;
  sheet: Sheet;
  wrong: Wrong | null;
  isOpen: boolean;
  onOpen(): void;
  onPut(one: KeepOut, gesture?: string): void;
  onRemove(): void;
}

function KeepOutRow({ one, index, sheet, wrong, isOpen, onOpen, onPut, onRemove }: RowProps) {
  const name = `place ${index + 1} kept out`;
  const { fields } = shapes[one.shape];
  const withoutOff = ({ off: _, ...rest }: KeepOut): KeepOut => rest;
  const withoutAround = ({ around: _, ...rest }: KeepOut): KeepOut => rest;
  return (
    <div
      className={outline.row}
      role="group"
      aria-label={name}
      data-kind="out"
      data-open={isOpen || undefined}
      data-off={one.off || undefined}
      data-wrong={wrong ? true : undefined}
    >
      <div className={outline.line}>
        <button className={outline.says} aria-expanded={isOpen} onClick={onOpen}>
          <b>keep out</b> <span>{sayKeepOut(one)}</span>
        </button>
        <Toggle
          checked={!one.off}
          label={`Mind ${name}`}
          onChange={(isOn) => onPut(isOn ? withoutOff(one) : { ...one, off: true })}
        />
      </div>
      {isOpen && (
        <div className={outline.editor}>
          <Choice
            label={`Shape of ${name}`}
            small
            value={one.shape}
            options={options}
            onChange={(shape) =>
              onPut({ shape, ...shapes[shape].fresh, fromMm: one.fromMm, toMm: one.toMm, around: one.around })
            }
          />
          {one.shape === "polygon" && (
            <PlacesField
              name={`Corners of ${name}`}
              points={one.points ?? []}
              least={3}
              onChange={(points) => onPut({ ...one, points }, `keep-points${index}`)}
            />
          )}
          {[...fields, ...heights].map((field) => (
            <FormulaField
              key={field.path}
              label={field.label}
              name={`${field.label}, ${name}`}
              sheet={sheet}
              path={null}
              isHalf
              value={exprAt(one, field.path)}
              hint={field.isOptional ? "all" : undefined}
              isWrong={wrong?.field === `keepOut.${index}.${field.path}`}
              onChange={(text) => onPut(withExpr(one, field, text), `keep${index}.${field.path}`)}
            />
          ))}
          <label className={outline.choice}>
            <Toggle
              checked={one.around === true}
              onChange={(isOn) => onPut(isOn ? { ...one, around: true } : withoutAround(one))}
            />{" "}
            strokes go round its edge
          </label>
          <p className={outline.acts}>
            <button className="link-button" onClick={onRemove} aria-label={`Take away ${name}`}>
              take away
            </button>
          </p>
        </div>
      )}
      {wrong && <p className="field-error">{wrong.message}</p>}
    </div>
  );
}

function sayKeepOut({ shape, centre: c, radiusMm, widthMm, depthMm, points, fromMm, toMm, around }: KeepOut): string {
  const at = c ? `${c[0]}, ${c[1]}` : "";
  const size = (value: Expr | undefined) => String(value ?? "");
  const what =
    shape === "circle"
      ? `circle ${at}  radius ${size(radiusMm)}`
      : shape === "rectangle"
        ? `${size(widthMm)} × ${size(depthMm)} at ${at}`
        : `${points?.length ?? 0} corners`;
  const span = fromMm === undefined && toMm === undefined ? "" : `  z ${fromMm ?? "bed"} to ${toMm ?? "top"}`;
  return `${what}${span}${around ? "  gone round" : ""}`;
}
