"use client";
/** The address of this page for a phone: as a code to be photographed, and in letters. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button } from "antd";
import { api } from "../common/api";
import styles from "./reading.module.css";

interface Code {
  address: string | null;
  code: string[] | null;
}

export function OnThePhone({ path }: { path: string }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <div>
      <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        Read it on the phone
      </Button>
      {isOpen && <Address path={path} />}
    </div>
  );
}

function Address({ path }: { path: string }) {
  const found = useQuery({
    queryKey: ["code", path],
    queryFn: () => api.get<Code>(`/code?path=${encodeURIComponent(path)}`),
  });
  if (found.error) return <p role="alert">{found.error.message}</p>;
  if (!found.data) return null;
  const { address, code } = found.data;
  if (!address || !code) {
    return (
      <p className="dim">
        Only this machine reaches Cuchara now. Start it with <span className="mono">HOST=0.0.0.0</span>, then a phone in
        the same network can read and mark.
      </p>
    );
  }
  // Four modules of quiet on every side (ISO/IEC 18004).
  const size = code.length + 8;
  const dark = code.flatMap((row, y) =>
    [...row].flatMap((one, x) => (one === "1" ? [`M${x + 4} ${y + 4}h1v1h-1z`] : [])),
  );
  return (
    <>
      <svg
        className={styles.code}
        viewBox={`0 0 ${size} ${size}`}
        role="img"
        aria-label={`Code that leads to ${address}`}
      >
        <rect width={size} height={size} fill="#ffffff" />
        <path d={dark.join("")} fill="#000000" />
      </svg>
      <p className="mono">{address}</p>
      <p className="dim">
        A device that was not here before is asked for a code: it stands on the Shelf, under This program.
      </p>
    </>
  );
}
