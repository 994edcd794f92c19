"use client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { App, ConfigProvider } from "antd";
import { CSSProperties, ReactNode, useMemo, useState } from "react";
import { antTheme, cssVariables, Scheme } from "../theme/tokens";
import { Frame } from "./frame";
import { SchemeContext } from "./scheme";

export function Providers({ initialScheme, children }: { initialScheme: Scheme; children: ReactNode }) {
  const [scheme, set] = useState<Scheme>(initialScheme);
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { staleTime: 10_000, retry: 1, refetchOnWindowFocus: false } } }),
  );
  const value = useMemo(
    () => ({
      scheme,
      setScheme(next: Scheme) {
        set(next);
        document.cookie = `scheme=${next}; path=/; max-age=31536000; samesite=lax`;
        document.documentElement.dataset.scheme = next;
      },
    }),
    [scheme],
  );
  return (
    <QueryClientProvider client={client}>
      <SchemeContext.Provider value={value}>
        <ConfigProvider theme={antTheme(scheme)}>
          <App style={cssVariables(scheme) as CSSProperties}>
            <SchemeVariables scheme={scheme} />
            <Frame>{children}</Frame>
          </App>
        </ConfigProvider>
      </SchemeContext.Provider>
    </QueryClientProvider>
  );
}

/** The palette for what stands outside the frame: dialogs and messages. */
function SchemeVariables({ scheme }: { scheme: Scheme }) {
  const rules = Object.entries(cssVariables(scheme)).map(([name, value]) => `${name}:${value}`);
  return <style>{`:root{${rules.join(";")}}`}</style>;
}
