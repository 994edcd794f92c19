"use client";
/** A button that opens a menu of things to do or take. The menu is loaded when a hand or the focus comes near. */
import dynamic from "next/dynamic";
import { ReactNode, useState } from "react";
import styles from "./chooser.module.css";

const ChooserMenu = dynamic(() => import("./chooser-menu"), { ssr: false });

export interface MenuChoice<K extends string | number> {
  key: K;
  label: string;
  disabled?: boolean;
}

interface Props<K extends string | number> {
  choices: MenuChoice<K>[];
  children: ReactNode;
  /** Words in the line instead of a button of its own. */
  plain?: boolean;
  className?: string;
  onChoose(key: K): void;
}

export function Chooser<K extends string | number>({ choices, children, plain, className, onChoose }: Props<K>) {
  const [near, setNear] = useState(false);
  const [open, setOpen] = useState(false);
  const button = (
    <button
      className={plain ? styles.plain : `opens ${styles.button}`}
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
    <span className={`${styles.chooser} ${className ?? ""}`}>
      {button}
      {near && (
        <ChooserMenu
          open={open}
          choices={choices}
          onOpen={setOpen}
          onChoose={(index) => onChoose(choices[index].key)}
        />
      )}
    </span>
  );
}
