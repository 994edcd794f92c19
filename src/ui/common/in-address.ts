"use client";
/** What a page shows stands in its address: a reload, the way back and a copied link come to the same place. */
import { useSearchParams } from "next/navigation";
import { useCallback, useEffect, useState } from "react";

/** Puts a value into the address, or takes it out; the page itself stays. */
function write(name: string, value: string | null): void {
  const url = new URL(window.location.href);
  if (value === null) url.searchParams.delete(name);
  else url.searchParams.set(name, value);
  if (url.href !== window.location.href) window.history.replaceState(null, "", url);
}

/** One of several, the usual one unless the address names another. */
export function useInAddress<T extends string>(name: string, choices: readonly T[], usual: T): [T, (next: T) => void] {
  const asked = useSearchParams().get(name);
  const [chosen, setChosen] = useState<T>(choices.find((one) => one === asked) ?? usual);
  const choose = useCallback(
    (next: T) => {
      setChosen(next);
      write(name, next === usual ? null : next);
    },
    [name, usual],
  );
  return [chosen, choose];
}

/** The address follows a cursor once it rests so long, ms. */
const RESTS_MS = 400;

/** A whole number from 0, as a layer; said from 1 in the address, as people count. */
export function useLayerInAddress(name: string): [number, (next: number) => void] {
  const asked = Number(useSearchParams().get(name));
  const [layer, setLayer] = useState(Number.isInteger(asked) && asked > 0 ? asked - 1 : 0);
  useEffect(() => {
    const later = setTimeout(() => write(name, layer === 0 ? null : String(layer + 1)), RESTS_MS);
    return () => clearTimeout(later);
  }, [name, layer]);
  return [layer, setLayer];
}
