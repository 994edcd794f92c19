import type { Metadata, Viewport } from "next";
import { AntdRegistry } from "@ant-design/nextjs-registry";
import { cookies } from "next/headers";
import { ReactNode } from "react";
import { Providers } from "@/ui/frame/providers";
import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/figtree";
import "@fontsource-variable/jetbrains-mono";
import "@/ui/theme/global.css";

export const metadata: Metadata = {
  title: { default: "Cuchara", template: "%s · Cuchara" },
  description: "Find out how a printer and a spool want to be treated",
};

export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default async function Layout({ children }: { children: ReactNode }) {
  const scheme = (await cookies()).get("scheme")?.value === "dark" ? "dark" : "light";
  return (
    <html lang="en" data-scheme={scheme}>
      <body>
        <AntdRegistry>
          <Providers initialScheme={scheme}>{children}</Providers>
        </AntdRegistry>
      </body>
    </html>
  );
}
