"use client";
/** Choosing the way to a printer: by cable, over the network, or to its simulated stand-in. */
import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import type { Way } from "@/core/link/way";
import { Segments } from "./segments";
import { Choice } from "./choice";
import { api } from "./api";
import { keys } from "./keys";
import { NumberField } from "./number-field";
import { TextField } from "./text-field";
import styles from "./way-fields.module.css";

/** What was chosen and typed so far; the figures of the other ways are kept. */
export interface WayDraft {
  kind: Way["kind"];
  rate: number;
  path: string;
  baud: number;
  host: string;
  port: number;
}

export const freshWay: WayDraft = { kind: "simulated", rate: 1, path: "", baud: 115200, host: "", port: 4750 };

const labels: Record<Way["kind"], string> = { simulated: "Simulated", serial: "Serial cable", tcp: "Network" };
const rates = [1, 5, 20, 50, 100, 200, 500];

/** The way as it is asked for; null while something is missing. */
export function wayOf({ kind, rate, path, baud, host, port }: WayDraft): Way | null {
  if (kind === "simulated") return { kind, rate };
  if (kind === "serial") return path.trim() === "" ? null : { kind, path: path.trim(), baud };
  return host.trim() === "" ? null : { kind, host: host.trim(), port };
}

interface Props {
  kinds: Way["kind"][];
  way: WayDraft;
  onWay(way: WayDraft): void;
}

export function WayFields({ kinds, way, onWay }: Props) {
  const set = (part: Partial<WayDraft>) => onWay({ ...way, ...part });
  return (
    <>
      <Segments
        label="Way to the printer"
        value={way.kind}
        options={kinds.map((value) => ({ value, label: labels[value] }))}
        onChange={(kind) => set({ kind })}
      />
      {way.kind === "simulated" && <RateChoice rate={way.rate} onRate={(rate) => set({ rate })} />}
      {way.kind === "serial" && <SerialFields path={way.path} baud={way.baud} onChange={set} />}
      {way.kind === "tcp" && (
        <>
          <TextField
            className={styles.address}
            aria-label="Address"
            placeholder="192.168.1.20"
            value={way.host}
            onChange={(host) => set({ host })}
          />
          <NumberField
            label="Port"
            value={way.port}
            unit=""
            low={1}
            high={65535}
            decimals={0}
            width={60}
            onChange={(port) => set({ port })}
          />
        </>
      )}
    </>
  );
}

function SerialFields(props: { path: string; baud: number; onChange(part: Partial<WayDraft>): void }) {
  const { path, baud, onChange } = props;
  const listId = useId();
  const ports = useQuery({
    queryKey: keys.ports,
    queryFn: () => api.get<{ ports: { path: string; name: string }[]; speeds: number[] }>("/link/ports"),
  });
  return (
    <>
      <TextField
        className={styles.port}
        aria-label="Port"
        list={listId}
        placeholder={ports.isFetching ? "Looking for ports …" : "Choose or type a port"}
        title={ports.data?.ports.length === 0 ? "No serial port was found. Is the cable in?" : undefined}
        value={path}
        onChange={(value) => onChange({ path: value })}
        onFocus={() => void ports.refetch()}
      />
      <datalist id={listId}>
        {ports.data?.ports.map((one) => (
          <option key={one.path} value={one.path}>
            {one.name}
          </option>
        ))}
      </datalist>
      <Choice
        className={styles.baud}
        label="Speed, baud"
        value={baud}
        options={(ports.data?.speeds ?? [115200, 250000]).map((value) => ({ value, label: String(value) }))}
        onChange={(value) => onChange({ baud: value })}
      />
    </>
  );
}

/** How fast the clock of a simulated printer runs. */
export function RateChoice({ rate, onRate }: { rate: number; onRate(rate: number): void }) {
  const options = [...new Set([...rates, rate])].sort((a, b) => a - b);
  return (
    <Choice
      className={styles.rate}
      label="Clock of the simulated printer"
      value={rate}
      options={options.map((value) => ({ value, label: value === 1 ? "real time" : `clock ${value} ×` }))}
      onChange={onRate}
    />
  );
}
