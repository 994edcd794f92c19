"use client";
/** One of a few that are all in sight: a group of the browser's own radio buttons, side by side. */
import { useId } from "react";
import styles from "./segments.module.css";

interface Props<T> {
  /** What is chosen. */
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  small?: boolean;
  className?: string;
  onChange(value: NoInfer<T>): void;
}

export function Segments<T extends string | number | boolean>(props: Props<T>) {
  const { label, value, options, small = false, className = "", onChange } = props;
  const name = useId();
  return (
    <span role="radiogroup" aria-label={label} className={`${styles.row} ${small ? styles.small : ""} ${className}`}>
      {options.map((option) => (
        <label key={String(option.value)}>
          <input
            type="radio"
            name={name}
            checked={option.value === value}
            onChange={() => onChange(option.value)}
            className="visually-hidden"
          />
          <span>{option.label}</span>
        </label>
      ))}
    </span>
  );
}
