"use client";
import type { ReactNode } from "react";
import styles from "./height-log.module.css";

interface Props {
  zoom: number;
  onZoom(zoom: number): void;
  onFill?(): void;
  /** What the keys do, where they do something else than on a plan. */
  keys?: ReactNode;
  children?: ReactNode;
}

/** How a press changes the zoom. */
export const ZOOM_STEP = 1.5;

/** What the log's keys do, and the zoom. */
export function LogFoot({ zoom, onZoom, onFill, keys, children }: Props) {
  return (
    <div className={styles.foot}>
      {keys ?? (
        <>
          <span>
            <kbd>↑</kbd> <kbd>↓</kbd> layer
          </span>
          <span>
            <kbd>Shift</kbd>+<kbd>↑</kbd> <kbd>↓</kbd> band
          </span>
        </>
      )}
      {onFill && (
        <button className="link-button" onClick={onFill}>
          <kbd>F</kbd> fill values
        </button>
      )}
      <span>
        <kbd>?</kbd> all keys
      </span>
      <span>
        <button
          className="link-button"
          onClick={() => onZoom(zoom / ZOOM_STEP)}
          aria-label="Zoom out"
          disabled={zoom <= 1}
        >
          −
        </button>{" "}
        zoom{" "}
        <button className="link-button" onClick={() => onZoom(zoom * ZOOM_STEP)} aria-label="Zoom in">
          +
        </button>
      </span>
      {children}
    </div>
  );
}
