"use client";
/** A button that lets a file be chosen; the field itself stays out of sight and is there for who uses it by name. */
import { Button, ButtonProps } from "antd";
import { useRef } from "react";

interface Props extends Omit<ButtonProps, "onClick"> {
  /** What the file is, for the field. */
  label: string;
  accept: string;
  multiple?: boolean;
  onPick(files: File[]): void;
}

export function PickFile({ label, accept, multiple = false, onPick, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => input.current?.click()} />
      <input
        ref={input}
        type="file"
        accept={accept}
        multiple={multiple}
        aria-label={label}
        className="visually-hidden"
        tabIndex={-1}
        onChange={({ target }) => {
          const files = [...(target.files ?? [])];
          // The same file can be chosen once more.
          target.value = "";
          if (files.length > 0) onPick(files);
        }}
      />
    </>
  );
}
