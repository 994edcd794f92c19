"use client";
/** The fields of the row that is open: what it is, how it is laid, and what can be done with it. */
import { fieldOf, RowPath, sayRow } from "@/core/sheets/rows";
import type { Item, Laying, Repeat } from "@/core/sheets/sheet";
import { Choice } from "../common/choice";
import { TextArea } from "../common/text-field";
import { Toggle } from "../common/toggle";
import { FormulaField } from "./formula-field";
import styles from "./outline.module.css";
import { PlacesField } from "./places-field";
import {
  alongOptions,
  exprAt,
  fieldsOf,
  isClosed,
  isLaid,
  layingFields,
  RowField,
  rowKinds,
  startField,
  wayOf,
  withExpr,
} from "./row-kinds";
import { useRowMoves } from "./row-moves";
import { useOutline } from "./sheet-context";

interface Props {
  item: Item;
  path: RowPath;
}

/** Formulas that grow long; two of the others stand side by side. */
const LONG = new Set(["x", "y", "z", "radiusMm", "angle", "name", "text"]);
const TEXTS = new Set(["counter", "name", "text"]);

export function RowEditor({ item, path }: Props) {
  const { onPut } = useOutline();
  const name = sayRow(path);
  const { ways } = rowKinds[item.kind];
  const way = wayOf(item);
  return (
    <div className={styles.editor}>
      {item.kind === "repeat" && (
        <Choice
          label={`Along what, ${name}`}
          small
          value={item.along}
          options={alongOptions}
          onChange={(along) => onPut(path, alongAnother(item, along))}
        />
      )}
      {ways && (
        <Choice
          label={`How it is said, ${name}`}
          small
          value={way?.label}
          options={ways.map(({ label }) => ({ value: label, label }))}
          onChange={(label) => label !== way?.label && onPut(path, ways.find((one) => one.label === label)!.make(item))}
        />
      )}
      <Fields fields={fieldsOf(item)} item={item} path={path} name={name} />
      {item.kind === "line" && (
        <>
          <PlacesField
            name={`Places, ${name}`}
            points={item.points}
            onChange={(points) => onPut(path, { ...item, points }, `${fieldOf(path)}.points`)}
          />
          <label className={styles.choice}>
            <Toggle checked={item.closed === true} onChange={(closed) => onPut(path, { ...item, closed })} /> closed:
            back to its first place
          </label>
        </>
      )}
      {item.kind === "lines" && (
        <TextArea
          aria-label={`Lines, ${name}`}
          className="mono"
          mostRows={10}
          leastRows={2}
          value={item.lines.join("\n")}
          onChange={(text) => onPut(path, { ...item, lines: text.split("\n") }, `${fieldOf(path)}.lines`)}
        />
      )}
      {isLaid(item) && <HowLaid item={item} path={path} name={name} />}
      <RowWrong path={path} />
      <Acts item={item} path={path} name={name} />
    </div>
  );
}

/** A repeat along something else keeps what both know, and gets what it needs. */
function alongAnother(item: Repeat, along: Repeat["along"]): Repeat {
  const { spacingMm, centre, angle: _, ...rest } = item;
  if (along === "x" || along === "y" || along === "z")
    return { ...rest, along, count: item.count ?? "2", spacingMm: spacingMm ?? (along === "z" ? "0.2" : "20") };
  return {
    ...rest,
    along,
    count: along === "mirror" ? undefined : (item.count ?? "6"),
    centre: centre ?? ["110", "110"],
  };
}

function RowWrong({ path }: { path: RowPath }) {
  const { wrong } = useOutline();
  const field = fieldOf(path);
  const isOwn =
    wrong &&
    (wrong.field === field || (wrong.field.startsWith(`${field}.`) && !wrong.field.startsWith(`${field}.items.`)));
  return isOwn ? <p className="field-error">{wrong.message}</p> : null;
}

function Fields({ fields, item, path, name }: Props & { fields: readonly RowField[]; name: string }) {
  const { sheet, wrong, onPut } = useOutline();
  const row = fieldOf(path);
  return fields.map((field) => (
    <FormulaField
      key={field.path}
      label={field.label}
      name={`${field.label}, ${name}`}
      sheet={sheet}
      path={path}
      value={exprAt(item, field.path)}
      isText={TEXTS.has(field.path)}
      isHalf={!LONG.has(field.path)}
      isWrong={wrong?.field === `${row}.${field.path}`}
      hint={field.isOptional ? "–" : undefined}
      onChange={(text) => onPut(path, withExpr(item, field, text), `${row}.${field.path}`)}
    />
  ));
}

type Strokes = Extract<Item, { points: unknown }> & Laying;

const retractOptions = [
  { value: "self", label: "as the way asks for" },
  { value: "always", label: "always" },
  { value: "never", label: "never" },
  { value: "mm", label: "by so many mm" },
] as const;
const runOptions = [
  { value: "self", label: "from the nearer end" },
  { value: "forth", label: "in the order written" },
  { value: "back", label: "backwards" },
] as const;
const fillOptions = [
  { value: "none", label: "nothing" },
  { value: "lines", label: "lines" },
  { value: "rings", label: "rings" },
] as const;

function HowLaid({ item, path, name }: Props & { name: string }) {
  const { onPut } = useOutline();
  const stroke = item as Strokes;
  const put = (change: Partial<Laying>) => onPut(path, { ...stroke, ...change } as Item);
  const { retract, reverse, fill } = stroke;
  const isOwn = layingFields.some((field) => exprAt(item, field.path) !== undefined);
  const draws = retract === undefined ? "self" : retract === true ? "always" : retract === false ? "never" : "mm";
  return (
    <details
      open={isOwn || retract !== undefined || fill !== undefined || reverse !== undefined || stroke.start !== undefined}
    >
      <summary>How it is laid</summary>
      <div className={styles.fields}>
        <Fields
          fields={isClosed(item) ? [...layingFields, startField] : layingFields}
          item={item}
          path={path}
          name={name}
        />
        <label className={styles.choice}>
          draws back before it
          <Choice
            label={`Draws back before it, ${name}`}
            small
            value={draws}
            options={retractOptions}
            onChange={(how) => put({ retract: how === "self" ? undefined : how === "mm" ? "1" : how === "always" })}
          />
        </label>
        {draws === "mm" && (
          <Fields fields={[{ path: "retract", label: "back, mm" }]} item={item} path={path} name={name} />
        )}
        {!["climb", "word"].includes(item.kind) && (
          <label className={styles.choice}>
            runs
            <Choice
              label={`Which way it runs, ${name}`}
              small
              value={reverse === undefined ? "self" : reverse ? "back" : "forth"}
              options={runOptions}
              onChange={(way) => put({ reverse: way === "self" ? undefined : way === "back" })}
            />
          </label>
        )}
        {isClosed(item) && (
          <label className={styles.choice}>
            filled with
            <Choice
              label={`Filled with, ${name}`}
              small
              value={fill?.pattern ?? "none"}
              options={fillOptions}
              onChange={(pattern) => put({ fill: pattern === "none" ? undefined : { ...fill, pattern } })}
            />
          </label>
        )}
        {fill && (
          <Fields
            fields={[
              ...(fill.pattern === "lines" ? [{ path: "fill.angle", label: "angle, rad", isOptional: true }] : []),
              { path: "fill.percent", label: "covered, %", isOptional: true },
            ]}
            item={item}
            path={path}
            name={name}
          />
        )}
      </div>
    </details>
  );
}

function Acts({ item, path, name }: Props & { name: string }) {
  const moves = useRowMoves(item, path);
  const isInner = path.length > 1;
  const isFirst = path[path.length - 1] === 0;
  const acts: (readonly [label: string, text: string, act: () => void] | false)[] = [
    !isFirst && ["Earlier", "earlier", moves.earlier],
    ["Later", "later", moves.later],
    isInner && ["Out of its repeat", "out", moves.out],
    !isFirst && ["Into what stands before it", "in", moves.into],
    isInner && item.kind === "repeat" && ["Outside of what is around it", "outside", moves.outside],
    ["Once more", "once more", moves.again],
    ["Take away", "take away", moves.remove],
  ];
  return (
    <p className={styles.acts}>
      {acts.map(
        (one) =>
          one && (
            <button key={one[0]} className="link-button" aria-label={`${one[0]}, ${name}`} onClick={one[2]}>
              {one[1]}
            </button>
          ),
      )}
    </p>
  );
}
