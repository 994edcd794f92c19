"use client";
/** One of several, in the system's own list: it fits every screen and thumb, is found by typing, and costs nothing to load. */
import styles from "./choice.module.css";

export interface Option<T> {
  value: T;
  label: string;
  /** Options that follow one another under one heading. */
  group?: string;
}

/** Options in the order they came, those of a group together. */
function grouped<T>(options: readonly Option<T>[]): { group: string | undefined; indices: number[] }[] {
  const groups: { group: string | undefined; indices: number[] }[] = [];
  options.forEach(({ group }, index) => {
    const last = groups.at(-1);
    if (last && last.group === group) last.indices.push(index);
    else groups.push({ group, indices: [index] });
  });
  return groups;
}

interface Props<T> {
  id?: string;
  /** What is chosen, for who cannot see it; left out where a label stands beside. */
  label?: string;
  describedBy?: string;
  /** What is none of the options counts as nothing chosen. */
  value: T | null | undefined;
  options: readonly Option<T>[];
  /** Stands where nothing is chosen. */
  hint?: string;
  small?: boolean;
  className?: string;
  onChange(value: T): void;
  /** Makes the hint a choice of its own: none of them. */
  onClear?(): void;
  /** The list is about to open. */
  onOpen?(): void;
}

export function Choice<T extends string | number>(props: Props<T>) {
  const { options, hint, onClear, onOpen } = props;
  const at = options.findIndex(({ value }) => value === props.value);
  return (
    <span className={`opens ${styles.choice} ${props.small ? styles.small : ""} ${props.className ?? ""}`}>
      <select
        id={props.id}
        aria-label={props.label}
        aria-describedby={props.describedBy}
        data-waits={at < 0 || undefined}
        value={at}
        onPointerDown={onOpen}
        onFocus={onOpen}
        onChange={({ target }) => {
          const option = options[Number(target.value)];
          if (option) props.onChange(option.value);
          else onClear?.();
        }}
      >
        {(at < 0 || onClear) && (
          <option value={-1} disabled={!onClear} hidden={!onClear}>
            {hint ?? ""}
          </option>
        )}
        {grouped(options).map(({ group, indices }) => {
          const items = indices.map((index) => (
            <option key={index} value={index}>
              {options[index].label}
            </option>
          ));
          return group === undefined ? (
            items
          ) : (
            <optgroup key={group} label={group}>
              {items}
            </optgroup>
          );
        })}
      </select>
    </span>
  );
}
