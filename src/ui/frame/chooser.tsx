"use client";
/** A button that opens a menu. The menu is loaded when a hand or the focus comes near. */
import dynamic from "next/dynamic";
import { ReactNode, useState } from "react";
import styles from "./frame.module.css";

const ChooserMenu = dynamic(() => import("./chooser-menu"), { ssr: false });

export interface Choice {
  key: number;
  label: string;
}

interface Props {
  choices: Choice[];
  children: ReactNode;
  onChoose(key: number): void;
}

export function Chooser({ choices, children, onChoose }: Props) {
  const [near, setNear] = useState(false);
  const [open, setOpen] = useState(false);
  const button = (
    <button
      className={styles.pick}
      aria-haspopup="menu"
      aria-expanded={open}
      onPointerEnter={() => setNear(true)}
      onFocus={() => setNear(true)}
      onClick={() => {
        setNear(true);
        setOpen(!open);
      }}
    >
      {children}
    </button>
  );
  return (
    <span className={styles.chooser}>
      {button}
      {near && <ChooserMenu open={open} choices={choices} onOpen={setOpen} onChoose={onChoose} />}
    </span>
  );
}
