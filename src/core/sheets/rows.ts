/** Rows of a sheet's outline, by their place: an index for every level they lie in. */
import type { Item } from "./sheet";

export type RowPath = readonly number[];

/** The field a row is called by where something is wrong with it: `items.0.items.2`. */
export const fieldOf = (path: RowPath): string => path.map((index) => `items.${index}`).join(".");

/** A row as people call it: counted from 1, level by level. */
export const sayRow = (path: RowPath): string => `row ${path.map((index) => index + 1).join(".")}`;

export function rowAt(items: readonly Item[], [first, ...rest]: RowPath): Item | null {
  const item = items[first];
  if (!item || rest.length === 0) return item ?? null;
  return "items" in item ? rowAt(item.items, rest) : null;
}

/** The rows with what `act` makes of the list a row stands in. */
function inList(items: readonly Item[], path: RowPath, act: (list: Item[], index: number) => Item[]): Item[] {
  const [first, ...rest] = path;
  if (rest.length === 0) return act([...items], first);
  return items.map((item, i) =>
    i === first && "items" in item ? { ...item, items: inList(item.items, rest, act) } : item,
  );
}

export const replaceRow = (items: readonly Item[], path: RowPath, row: Item): Item[] =>
  inList(items, path, (list, index) => list.map((one, i) => (i === index ? row : one)));

export const removeRow = (items: readonly Item[], path: RowPath): Item[] =>
  inList(items, path, (list, index) => list.filter((_, i) => i !== index));

/** Puts a row in where another stands, which goes on behind it; at the end where none stands there. */
export const insertRow = (items: readonly Item[], path: RowPath, row: Item): Item[] =>
  inList(items, path, (list, index) => [...list.slice(0, index), row, ...list.slice(index)]);

/** Up or down among its neighbours. */
export const shiftRow = (items: readonly Item[], path: RowPath, by: 1 | -1): Item[] =>
  inList(items, path, (list, index) => {
    const to = index + by;
    if (to < 0 || to >= list.length) return list;
    [list[index], list[to]] = [list[to], list[index]];
    return list;
  });

/** A row into the repeat or group in front of it, or out of its own. */
export function nestRow(items: readonly Item[], path: RowPath): Item[] {
  const index = path[path.length - 1];
  const before = [...path.slice(0, -1), index - 1];
  const [row, into] = [rowAt(items, path), rowAt(items, before)];
  if (!row || !into || !("items" in into)) return [...items];
  return replaceRow(removeRow(items, path), before, { ...into, items: [...into.items, row] });
}

export function unnestRow(items: readonly Item[], path: RowPath): Item[] {
  const row = rowAt(items, path);
  if (!row || path.length < 2) return [...items];
  const parent = path.slice(0, -1);
  return insertRow(removeRow(items, path), [...parent.slice(0, -1), parent[parent.length - 1] + 1], row);
}

/** A row and a repeat around it change places: what was inside is outside. */
export function swapWithParent(items: readonly Item[], path: RowPath): Item[] {
  const parentPath = path.slice(0, -1);
  const [row, parent] = [rowAt(items, path), rowAt(items, parentPath)];
  if (!row || !parent || row.kind !== "repeat" || parent.kind !== "repeat" || parent.items.length !== 1)
    return [...items];
  return replaceRow(items, parentPath, { ...row, items: [{ ...parent, items: row.items }] });
}

export type DropPlace = "before" | "after" | "into";

/** Whether one path lies in another, or is it. */
const liesIn = (path: RowPath, other: RowPath): boolean => other.every((index, i) => path[i] === index);

/** A row taken to another one: before it, behind it, or into it at its end. The rows as they are, where it cannot go there. */
export function moveRow(items: readonly Item[], from: RowPath, to: RowPath, place: DropPlace): Item[] {
  const [row, target] = [rowAt(items, from), rowAt(items, to)];
  if (!row || !target || liesIn(to, from)) return [...items];
  if (place === "into") {
    if (!("items" in target)) return [...items];
    // Put in first, so that the paths still hold; then taken away where it was.
    const within = insertRow(items, [...to, target.items.length], row);
    return removeRow(within, from);
  }
  const at = [...to.slice(0, -1), to[to.length - 1] + (place === "after" ? 1 : 0)];
  const within = insertRow(items, at, row);
  return removeRow(within, behindInsertion(from, at));
}

/** Where a row stands when another was put in at a place. */
function behindInsertion(path: RowPath, at: RowPath): RowPath {
  const level = at.length - 1;
  const isBeside = path.length > level && at.slice(0, level).every((index, i) => path[i] === index);
  return isBeside && path[level] >= at[level] ? path.map((index, i) => (i === level ? index + 1 : index)) : path;
}

/** Paths of all rows, in the order they are read. */
export function allRows(items: readonly Item[], parent: RowPath = []): RowPath[] {
  return items.flatMap((item, i) => {
    const path = [...parent, i];
    return [path, ...("items" in item ? allRows(item.items, path) : [])];
  });
}

/**
 * The order of two repeats round one another: the inner one is taken outside of the outer one, past all that lie between. Null where one of
 * them has other rows, too, or something else lies between.
 */
export function raiseRepeat(items: readonly Item[], inner: RowPath, outer: RowPath): Item[] | null {
  let all = [...items];
  for (let path = [...inner]; path.length > outer.length; path = path.slice(0, -1)) {
    const [row, parent] = [rowAt(all, path), rowAt(all, path.slice(0, -1))];
    if (row?.kind !== "repeat" || parent?.kind !== "repeat" || parent.items.length !== 1) return null;
    all = swapWithParent(all, path);
  }
  return all;
}

/** A row dropped on another: repeats round one another change their order, everything else is moved. */
export function dropRow(items: readonly Item[], from: RowPath, to: RowPath, place: DropPlace): Item[] {
  const isWithin = (path: RowPath, other: RowPath) => path.length > other.length && liesIn(path, other);
  const raised = isWithin(from, to)
    ? place === "into"
      ? null
      : raiseRepeat(items, from, to)
    : isWithin(to, from)
      ? raiseRepeat(items, to, from)
      : null;
  return raised ?? moveRow(items, from, to, place);
}
