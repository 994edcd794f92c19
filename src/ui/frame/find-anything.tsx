"use client";
/** Ctrl or ⌘ K: type a few letters, go there. */
import { useQuery } from "@tanstack/react-query";
import { Input, InputRef, Modal } from "antd";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { firmwareValues } from "@/core/firmware/values";
import { commands } from "@/core/machine/commands";
import { tuneFor, tuneKeys } from "@/core/measure";
import { sayValue, settingFor } from "@/core/settings";
import { api } from "../common/api";
import { useBenchPair, useKept, usePrinters, useSpools, useTrials } from "../common/queries";
import { areas } from "./areas";
import { keys } from "../common/keys";
import styles from "./find-anything.module.css";

interface Place {
  label: string;
  kind: string;
  path: string;
}

const MOST_SHOWN = 9;

/** Commands, where they can be typed, and firmware values, where they can be read. */
function firmwarePlaces(printerId: number): Place[] {
  return [
    ...commands.map(({ code, does }) => ({
      label: `${code} ${does}`,
      kind: "command",
      path: `/printer/${printerId}?view=console&type=${encodeURIComponent(code)}`,
    })),
    ...firmwareValues.map(({ key, label }) => ({
      label,
      kind: "firmware value",
      path: `/printer/${printerId}?view=values#${key}`,
    })),
  ];
}

export function FindAnything({ open, onClose }: { open: boolean; onClose(): void }) {
  const router = useRouter();
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState(0);
  const input = useRef<InputRef>(null);
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const trials = useTrials().data ?? [];
  const files =
    useQuery({ queryKey: keys.files, queryFn: () => api.get<{ id: number; name: string }[]>("/files"), enabled: open })
      .data ?? [];
  const sheets =
    useQuery({
      queryKey: keys.sheets,
      queryFn: () => api.get<{ id: number; name: string }[]>("/sheets"),
      enabled: open,
    }).data ?? [];
  const bench = useBenchPair();
  const kept = useKept(bench.printer?.id ?? 0, bench.spool?.id ?? 0).data ?? [];
  const places: Place[] = [
    ...areas.map(({ label, path }) => ({ label, kind: "area", path })),
    ...trials.map(({ id, name }) => ({ label: name, kind: "trial", path: `/trials/${id}` })),
    ...printers.map(({ id, name }) => ({ label: name, kind: "printer", path: `/shelf/printers/${id}` })),
    ...spools.map(({ id, name, maker }) => ({
      label: `${maker} ${name}`.trim(),
      kind: "spool",
      path: `/shelf/spools/${id}`,
    })),
    ...printers.map(({ id, name }) => ({
      label: `${name}: link, console, values, heat, job`,
      kind: "link",
      path: `/printer/${id}`,
    })),
    ...tuneKeys.map((key) => ({ label: tuneFor(key).title, kind: "measure", path: `/measure/${key}` })),
    ...(bench.printer ? firmwarePlaces(bench.printer.id) : []),
    ...kept.map(({ setting, value }) => ({
      label: `${settingFor(setting).label} ${sayValue(setting, value)}`,
      kind: "kept for the pair on the bench",
      path: `/bench#${setting}`,
    })),
    { label: "Two opened files as one print: merge, join", kind: "in a file of the Workshop", path: "/workshop" },
    ...files.map(({ id, name }) => ({ label: name, kind: "file", path: `/workshop/${id}` })),
    ...sheets.map(({ id, name }) => ({ label: name, kind: "sheet", path: `/paths/${id}` })),
  ];
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = places
    .filter(({ label, kind }) => words.every((word) => `${label} ${kind}`.toLowerCase().includes(word)))
    .slice(0, MOST_SHOWN);
  const go = (place: Place | undefined) => {
    if (!place) return;
    onClose();
    setText("");
    router.push(place.path);
  };
  return (
    <Modal
      open={open}
      onCancel={onClose}
      footer={null}
      closable={false}
      title={<span className="visually-hidden">Find anything</span>}
      afterOpenChange={(visible) => visible && input.current?.focus()}
    >
      <Input
        ref={input}
        size="large"
        aria-label="Find a printer, a spool, a trial or a file"
        placeholder="Printer, spool, trial, file …"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setChosen(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setChosen((chosen + 1) % Math.max(1, found.length));
          else if (event.key === "ArrowUp") setChosen((chosen + found.length - 1) % Math.max(1, found.length));
          else if (event.key === "Enter") go(found[chosen]);
          else return;
          event.preventDefault();
        }}
      />
      <ul className="rows above">
        {found.length === 0 && <li className="list-row dim">Nothing is called that.</li>}
        {found.map((place, index) => (
          <li key={`${place.path} ${place.label}`} data-on={index === chosen} className={styles.place}>
            <button className={`link-button ${styles.go}`} onClick={() => go(place)}>
              <span>{place.label}</span>
              <span className="dim">{place.kind}</span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
