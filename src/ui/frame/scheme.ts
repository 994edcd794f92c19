"use client";
import { createContext, useContext } from "react";
import type { Scheme } from "../theme/tokens";

export const SchemeContext = createContext<{ scheme: Scheme; setScheme(scheme: Scheme): void }>({
  scheme: "light",
  setScheme: () => undefined,
});

/** The colour scheme in use and how to change it. */
export const useScheme = () => useContext(SchemeContext);
