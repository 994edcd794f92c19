import type { Metadata, Viewport } from "next";
import { AntdRegistry } from "@ant-design/nextjs-registry";
import { cookies, headers } from "next/headers";
import { ReactNode } from "react";
import { benchData, builtFonts, isForStranger } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { EarlyHands } from "@/ui/frame/early-hands";
import { Frame } from "@/ui/frame/frame";
import { Providers } from "@/ui/frame/providers";
import { palettes, Scheme } from "@/ui/theme/tokens";
import { WithData } from "./with-data";
import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/figtree";
import "@fontsource-variable/jetbrains-mono";
import "@/ui/theme/global.css";

export const metadata: Metadata = {
  title: { default: "Cuchara", template: "%s · Cuchara" },
  description: "Find out how a printer and a spool want to be treated",
};

export const viewport: Viewport = { width: "device-width", initialScale: 1 };

const asScheme = (text: string | undefined): Scheme | null => (text === "dark" || text === "light" ? text : null);

function give() {
  const { printers, spools, bench, links } = benchData();
  return [
    { queryKey: keys.printers, data: printers },
    { queryKey: keys.spools, data: spools },
    { queryKey: keys.bench, data: bench },
    { queryKey: keys.links, data: links },
  ];
}

export default async function Layout({ children }: { children: ReactNode }) {
  const jar = await cookies();
  const chosen = asScheme(jar.get("scheme")?.value);
  const guess = asScheme(jar.get("system-scheme")?.value) ?? "light";
  const asked = await headers();
  const nonce = asked.get("x-nonce") ?? undefined;
  const isStranger = isForStranger(asked);
  const { ground, ink } = palettes[chosen ?? guess];
  return (
    <html lang="en" data-scheme={chosen ?? guess}>
      <head>
        {builtFonts().map((href) => (
          <link key={href} rel="preload" as="font" type="font/woff2" href={href} crossOrigin="anonymous" />
        ))}
      </head>
      <body style={{ background: ground, color: ink }}>
        <EarlyHands nonce={nonce} />
        <AntdRegistry>
          <Providers chosen={chosen} guess={guess}>
            <WithData give={isStranger ? () => [] : give}>
              <Frame>{children}</Frame>
            </WithData>
          </Providers>
        </AntdRegistry>
      </body>
    </html>
  );
}
