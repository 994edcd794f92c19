"use client";
import { Dropdown } from "antd";
import { useEffect, useRef } from "react";
import type { Choice } from "./chooser";
import styles from "./frame.module.css";

interface Props {
  open: boolean;
  choices: Choice[];
  onOpen(open: boolean): void;
  onChoose(key: number): void;
}

/** The menu of a chooser: arrow keys are in it as soon as it is open, and Escape gives the focus back to the button. */
export default function ChooserMenu({ open, choices, onOpen, onChoose }: Props) {
  const anchor = useRef<HTMLSpanElement>(null);
  const button = () => anchor.current?.closest(".chooser")?.querySelector("button");
  const wasOpen = useRef(open);
  useEffect(() => {
    if (wasOpen.current && !open) button()?.focus();
    wasOpen.current = open;
  }, [open]);
  return (
    <Dropdown
      trigger={[]}
      open={open}
      autoFocus
      onOpenChange={onOpen}
      menu={{
        items: choices.map(({ key, label }) => ({ key, label })),
        onClick: ({ key }) => {
          onOpen(false);
          onChoose(Number(key));
        },
        onKeyDown: (event) => {
          if (event.key === "Escape" || event.key === "Tab") onOpen(false);
        },
      }}
    >
      <span ref={anchor} className={styles.anchor} />
    </Dropdown>
  );
}
