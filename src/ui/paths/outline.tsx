"use client";
/** What is laid, in its order, from outside to inside: rows with formulas, moved by buttons and keys. */
import type { Item, Repeat } from "@/core/sheets/sheet";
import {
  fieldOf,
  insertRow,
  nestRow,
  removeRow,
  replaceRow,
  RowPath,
  shiftRow,
  swapWithParent,
  unnestRow,
} from "@/core/sheets/rows";
import { Choice } from "../common/choice";
import { TextField } from "../common/text-field";
import { Toggle } from "../common/toggle";
import styles from "./sheet-page.module.css";
import { exprAt, RowField, rowKindOf, rowKinds, withExpr } from "./row-fields";

export interface Wrong {
  field: string;
  message: string;
}

interface Props {
  items: readonly Item[];
  wrong: Wrong | null;
  lit: string | null;
  onLit(field: string | null): void;
  onChange(items: Item[], gesture?: string): void;
}

const along: { value: Repeat["along"]; label: string }[] = [
  { value: "x", label: "along X" },
  { value: "y", label: "along Y" },
  { value: "z", label: "up" },
  { value: "round", label: "round a place" },
  { value: "mirror", label: "mirrored" },
];

export function Outline(props: Props) {
  return (
    <ol className={styles.outline} aria-label="Laid, in this order">
      <Rows {...props} all={props.items} path={[]} />
      <li>
        <NewRow onNew={(row) => props.onChange([...props.items, row])} label="Lay something more" />
      </li>
    </ol>
  );
}

function Rows({ items, all, path, ...rest }: Props & { all: readonly Item[]; path: RowPath }) {
  return items.map((item, i) => <Row key={i} {...rest} items={items} all={all} item={item} path={[...path, i]} />);
}

function Row(props: Props & { all: readonly Item[]; item: Item; path: RowPath }) {
  const { all, item, path, wrong, lit, onLit, onChange } = props;
  const field = fieldOf(path);
  const kind = rowKindOf(item.kind);
  const name = `row ${path.map((index) => index + 1).join(".")}`;
  const own =
    wrong &&
    (wrong.field === field ||
      (wrong.field.startsWith(`${field}.`) && !wrong.field.slice(field.length).startsWith(".items.")));
  const put = (row: Item, gesture?: string) => onChange(replaceRow(all, path, row), gesture);
  return (
    <li>
      <div
        className={styles.row}
        data-off={item.off || undefined}
        data-lit={lit === field || undefined}
        data-repeat={item.kind === "repeat" || undefined}
        role="group"
        aria-label={`${name}: ${kind?.label ?? "own lines"}`}
        onPointerEnter={() => onLit(field)}
        onPointerLeave={() => onLit(null)}
        onFocus={() => onLit(field)}
      >
        <b>{item.kind === "repeat" ? "" : (kind?.label ?? "own lines")}</b>
        {item.kind === "repeat" && (
          <Choice
            label={`Along what, ${name}`}
            small
            value={item.along}
            options={along}
            onChange={(next) => put({ ...item, along: next })}
          />
        )}
        {fieldsOf(item).map(({ path: at, label }) => (
          <label key={at} className={styles.field}>
            <span>{label}</span>
            <TextField
              aria-label={`${label}, ${name}`}
              value={String(exprAt(item, at) ?? "")}
              wrong={own ? wrong.field === `${field}.${at}` : false}
              maxLength={500}
              onChange={(text) => put(withExpr(item, at, text), `${field}.${at}`)}
            />
          </label>
        ))}
        <span className={styles.rowActs}>
          <Toggle
            checked={!item.off}
            label={`Lay ${name}`}
            onChange={(isOn) => put(isOn ? withoutOff(item) : { ...item, off: true })}
          />
          <Act label={`Earlier, ${name}`} text="↑" onAct={() => onChange(shiftRow(all, path, -1))} />
          <Act label={`Later, ${name}`} text="↓" onAct={() => onChange(shiftRow(all, path, 1))} />
          <Act label={`Out of its repeat, ${name}`} text="←" onAct={() => onChange(unnestRow(all, path))} />
          <Act label={`Into what stands before it, ${name}`} text="→" onAct={() => onChange(nestRow(all, path))} />
          {item.kind === "repeat" && path.length > 1 && (
            <Act
              label={`Outside of what is around it, ${name}`}
              text="⇱"
              onAct={() => onChange(swapWithParent(all, path))}
            />
          )}
          <Act label={`Once more, ${name}`} text="+" onAct={() => onChange(insertRow(all, path, item))} />
          <Act label={`Take away ${name}`} text="×" onAct={() => onChange(removeRow(all, path))} />
        </span>
        {own && <p className="field-error">{wrong.message}</p>}
      </div>
      {"items" in item && (
        <ol className={styles.inner}>
          <Rows {...props} items={item.items} all={all} path={path} />
          <li>
            <NewRow label={`Lay more in ${name}`} onNew={(row) => put({ ...item, items: [...item.items, row] })} />
          </li>
        </ol>
      )}
    </li>
  );
}

/** The fields of a row: of a polyline its first two places, of a repeat what it needs. */
function fieldsOf(item: Item): RowField[] {
  const fields = rowKindOf(item.kind)?.fields ?? [];
  if (item.kind !== "repeat") return fields;
  const counter = { path: "counter", label: "counter" };
  if (item.along === "round")
    return [fields[0], { path: "centre.0", label: "centre X" }, { path: "centre.1", label: "Y" }, counter];
  if (item.along === "mirror") return [{ path: "centre.0", label: "at X" }];
  return [...fields, counter];
}

function withoutOff(item: Item): Item {
  const { off: _, ...rest } = item;
  return rest as Item;
}

function Act({ label, text, onAct }: { label: string; text: string; onAct(): void }) {
  return (
    <button className={styles.act} aria-label={label} title={label} onClick={onAct}>
      {text}
    </button>
  );
}

function NewRow({ label, onNew }: { label: string; onNew(row: Item): void }) {
  const kinds = Object.keys(rowKinds) as (keyof typeof rowKinds)[];
  return (
    <Choice
      label={label}
      small
      value={null}
      hint="+ lay …"
      options={kinds.map((kind) => ({ value: kind, label: rowKinds[kind].label }))}
      onChange={(kind) => onNew(rowKinds[kind].fresh())}
    />
  );
}
