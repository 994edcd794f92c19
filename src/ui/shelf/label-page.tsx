"use client";
/** The label for a spool, in its exact size: printed from here, or saved. And the same values as a sheet to copy. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useSearchParams } from "next/navigation";
import { useState } from "react";
import { spoolTitle } from "@/core/shelf/spool-title";
import { LabelSize, labelSizes, sizeOf } from "@/core/values/label";
import { Choice } from "../common/choice";
import { Loading } from "../common/loading";
import { useBenchPair, usePrinters, useSpools } from "../common/queries";
import { saveAs, saveFrom } from "../common/save-as";
import { useTell } from "../common/talk";
import { useAct } from "../common/use-act";
import styles from "./label-page.module.css";

/** Dots of a saved picture for each millimetre: 600 an inch. */
const DOTS_PER_MM = 600 / 25.4;

/** On screen it is shown so many times larger. */
const LARGER = 1.8;

export function LabelPage() {
  const asked = useSearchParams();
  const bench = useBenchPair();
  const printers = usePrinters().data;
  const spools = useSpools().data;
  const [size, setSize] = useState<LabelSize>(labelSizes[1]);
  if (!printers || !spools) return <Loading />;
  const of = <T extends { id: number }>(all: T[], name: string, otherwise: T | null | undefined) =>
    all.find(({ id }) => id === Number(asked.get(name))) ?? otherwise;
  const printer = of(printers, "printerId", bench.printer);
  const spool = of(spools, "spoolId", bench.spool);
  if (!printer || !spool) return <div className="empty">Put a printer and a spool on the bench first.</div>;
  const query = `printerId=${printer.id}&spoolId=${spool.id}`;
  const { widthMm, heightMm } = sizeOf(size);
  const svg = `/api/label?${query}&size=${size}`;
  const name = `${spool.name} on ${printer.name} label`;
  return (
    <>
      <h1>Label for {spool.name}</h1>
      <p className="sub">
        {spoolTitle(spool)} on {printer.name}: what was kept, when, and a code that leads back to its bench. Shown
        larger; it prints in its exact size.
      </p>
      <div className={styles.sides}>
        <div className={styles.paper}>
          <img
            src={svg}
            alt={`Label of ${widthMm} × ${heightMm} mm`}
            style={{ width: `${widthMm * LARGER}mm`, height: `${heightMm * LARGER}mm` }}
            className={styles.label}
          />
          {/* In print, page and label have its exact size. */}
          <style>{`@media print { @page { size: ${widthMm}mm ${heightMm}mm; margin: 0 } img.${styles.label} { width: ${widthMm}mm !important; height: ${heightMm}mm !important } }`}</style>
        </div>
        <section className={`card ${styles.acts}`} aria-label="Size and form">
          <Choice<LabelSize>
            label="Size of the label"
            value={size}
            options={labelSizes.map((value) => ({ value, label: `${value.replace("x", " × ")} mm` }))}
            onChange={setSize}
          />
          <Button className="go" onClick={() => window.print()}>
            Print it
          </Button>
          <SavePdf label="Save as PDF" address={`/api/label?${query}&size=${size}&as=pdf`} name={`${name}.pdf`} />
          <SavePicture svg={svg} widthMm={widthMm} heightMm={heightMm} name={`${name}.png`} />
          <SavePdf
            label="A sheet of 24 (A4, PDF)"
            address={`/api/label?${query}&size=70x37&as=sheet`}
            name={`${name}, 24.pdf`}
          />
        </section>
      </div>
      <Sheet query={query} />
    </>
  );
}

/** A PDF that may be refused: letters its font does not have are said before anything is printed. */
function SavePdf({ label, address, name }: { label: string; address: string; name: string }) {
  const { busy, act } = useAct();
  return (
    <Button loading={busy} onClick={() => void act(() => saveFrom(address, name))}>
      {label}
    </Button>
  );
}

function SavePicture({
  svg,
  widthMm,
  heightMm,
  name,
}: {
  svg: string;
  widthMm: number;
  heightMm: number;
  name: string;
}) {
  const tell = useTell();
  const save = async () => {
    try {
      const image = new Image();
      image.src = svg;
      await image.decode();
      const canvas = document.createElement("canvas");
      canvas.width = Math.round(widthMm * DOTS_PER_MM);
      canvas.height = Math.round(heightMm * DOTS_PER_MM);
      canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
      const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/png"));
      if (!blob) throw new Error("The picture could not be made.");
      saveAs(blob, name);
    } catch (error) {
      tell.error(error);
    }
  };
  return <Button onClick={() => void save()}>Save as picture (PNG)</Button>;
}

/** Name, value, unit and good range as text, with the other forms to save. */
function Sheet({ query }: { query: string }) {
  const tell = useTell();
  const sheet = useQuery({
    queryKey: ["kept", "sheet", query],
    queryFn: async () => (await fetch(`/api/kept/export?${query}&as=text`)).text(),
  });
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(sheet.data ?? "");
      tell.done("The values are copied.");
    } catch {
      tell.error(new Error("The browser does not let this page copy. Mark the text and copy it by hand."));
    }
  };
  return (
    <section className={`card ${styles.sheet}`} aria-label="Values sheet">
      <h2>The same as a sheet</h2>
      <pre className="mono" tabIndex={0} aria-label="Values as text">
        {sheet.data ?? " "}
      </pre>
      <div className="line">
        <Button onClick={() => void copy()}>Copy</Button>
        <Button href={`/api/kept/export?${query}&as=csv`}>CSV</Button>
        <Button href={`/api/kept/export?${query}&as=json`} target="_blank">
          JSON
        </Button>
        <Button href={`/api/kept/export?${query}&as=lines`}>Start lines</Button>
      </div>
    </section>
  );
}
