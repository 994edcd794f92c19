"use client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { ConfigProvider } from "antd";
import dynamic from "next/dynamic";
import { ReactNode, useState } from "react";
import { useTalk } from "../common/talk";
import { antTheme, cssVariables, Scheme } from "../theme/tokens";
import { SchemeContext, useChosenScheme } from "./scheme";

const Talker = dynamic(() => import("../common/talker"), { ssr: false });

/** `chosen` is the scheme the user has chosen; without one the system's is followed, and `guess` is what it most likely is. */
export function Providers({ chosen, guess, children }: { chosen: Scheme | null; guess: Scheme; children: ReactNode }) {
  const value = useChosenScheme(chosen, guess);
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { staleTime: 10_000, retry: 1, refetchOnWindowFocus: false } } }),
  );
  return (
    <QueryClientProvider client={client}>
      <SchemeContext.Provider value={value}>
        <ConfigProvider theme={antTheme(value.scheme)}>
          <div className="program">
            <SchemeVariables scheme={value.scheme} />
            {children}
            <TalkPlace />
          </div>
        </ConfigProvider>
      </SchemeContext.Provider>
    </QueryClientProvider>
  );
}

/** What shows messages and questions comes with the first of them. */
function TalkPlace() {
  const speaks = useTalk(({ words }) => words.length > 0);
  const [hasSpoken, setSpoken] = useState(false);
  if (speaks && !hasSpoken) setSpoken(true);
  return hasSpoken ? <Talker /> : null;
}

/** The palette for what stands outside the frame: dialogs and messages. */
function SchemeVariables({ scheme }: { scheme: Scheme }) {
  const rules = Object.entries(cssVariables(scheme)).map(([name, value]) => `${name}:${value}`);
  return <style>{`:root{${rules.join(";")}}`}</style>;
}
