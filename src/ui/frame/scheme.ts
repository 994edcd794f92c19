"use client";
import { createContext, useContext, useEffect, useMemo, useState } from "react";
import type { Scheme } from "../theme/tokens";

interface SchemeChoice {
  scheme: Scheme;
  setScheme(scheme: Scheme): void;
}

export const SchemeContext = createContext<SchemeChoice>({ scheme: "light", setScheme: () => undefined });

/** The colour scheme in use and how to change it. */
export const useScheme = () => useContext(SchemeContext);

const dark = "(prefers-color-scheme: dark)";

/** A year. */
const KEPT_S = 31_536_000;

/** The scheme that was chosen, else the system's, followed as it changes. Both are told to the server, so that the next page is right at once. */
export function useChosenScheme(chosen: Scheme | null, guess: Scheme): SchemeChoice {
  const [own, setOwn] = useState(chosen);
  const [system, setSystem] = useState(guess);
  const scheme = own ?? system;
  useEffect(() => {
    if (own !== null) return;
    const query = window.matchMedia(dark);
    const follow = () => {
      const now = query.matches ? "dark" : "light";
      setSystem(now);
      document.cookie = `system-scheme=${now}; path=/; max-age=${KEPT_S}; samesite=lax`;
    };
    follow();
    query.addEventListener("change", follow);
    return () => query.removeEventListener("change", follow);
  }, [own]);
  useEffect(() => {
    document.documentElement.dataset.scheme = scheme;
  }, [scheme]);
  return useMemo(
    () => ({
      scheme,
      setScheme(next: Scheme) {
        setOwn(next);
        document.cookie = `scheme=${next}; path=/; max-age=${KEPT_S}; samesite=lax`;
      },
    }),
    [scheme],
  );
}
