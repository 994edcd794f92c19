"use client";
import { Dropdown } from "antd";
import { useEffect, useRef } from "react";
import styles from "./chooser.module.css";

interface Props {
  open: boolean;
  choices: readonly { label: string; disabled?: boolean }[];
  onOpen(open: boolean): void;
  onChoose(index: number): void;
}

/** The menu of a chooser: arrow keys are in it as soon as it is open, and Escape gives the focus back to the button. */
export default function ChooserMenu({ open, choices, onOpen, onChoose }: Props) {
  const anchor = useRef<HTMLSpanElement>(null);
  const button = () => anchor.current?.closest(`.${styles.chooser}`)?.querySelector("button");
  const wasOpen = useRef(open);
  useEffect(() => {
    // What was chosen may have put the focus where it goes on.
    const isLost = document.activeElement === document.body || document.activeElement?.closest("[role=menu]");
    if (wasOpen.current && !open && isLost) button()?.focus();
    wasOpen.current = open;
  }, [open]);
  return (
    <Dropdown
      trigger={[]}
      open={open}
      autoFocus
      onOpenChange={onOpen}
      menu={{
        items: choices.map(({ label, disabled }, key) => ({ key, label, disabled })),
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
